import { jsonText } from '../../values/json-text.js';
import { codec } from './platform.js';

/** Anything that JSON escapes, or that is not ASCII. */
const UNSAFE = /[^\x20\x21\x23-\x5b\x5d-\x7e]/;

/** Up to this length a loop is faster than a call into the platform. */
export const SHORT = 32;

/** 1 for each ASCII character that JSON writes as it is. */
const SAFE: Uint8Array = Uint8Array.from({ length: 128 }, (_, code) =>
  code >= 32 && code < 127 && code !== 34 && code !== 92 ? 1 : 0,
);

/** Half a character, which UTF-8 has no bytes for. */
const HALVES = /\p{Surrogate}/u;

/** Why a text was not written: it is not ASCII, or there is something in it that cannot stand there as it is. */
export const OTHER = -1;
export const UNSAFE_ASCII = -2;

/**
 * Writes a short text whose characters are all safe. Four at a time: one check and one store for all of them.
 *
 * @param safe 1 for each ASCII character that may stand there as it is
 * @returns the position after it; `OTHER` or `UNSAFE_ASCII` where it was not written
 */
export const writeSafe = (
  target: Uint8Array,
  view: DataView,
  text: string,
  position: number,
  safe: Uint8Array,
): number => {
  const { length } = text;
  let p = position;
  let i = 0;
  for (; i + 3 < length; i += 4) {
    const a = text.charCodeAt(i);
    const b = text.charCodeAt(i + 1);
    const c = text.charCodeAt(i + 2);
    const d = text.charCodeAt(i + 3);
    if ((a | b | c | d) > 127) return OTHER;
    if (((safe[a] ?? 0) & (safe[b] ?? 0) & (safe[c] ?? 0) & (safe[d] ?? 0)) === 0) return UNSAFE_ASCII;
    view.setUint32(p, a | (b << 8) | (c << 16) | (d << 24), true);
    p += 4;
  }
  for (; i < length; i++) {
    const code = text.charCodeAt(i);
    if (code > 127) return OTHER;
    if (safe[code] === 0) return UNSAFE_ASCII;
    target[p++] = code;
  }
  return p;
};

/** Writes a string as JSON. The caller has reserved `textRoom(text)` or more; `view` is of `target`. */
export const writeText = (target: Uint8Array, view: DataView, text: string, position: number): number => {
  if (text.length > SHORT) return writeEncoded(target, view, text, position);
  const end = writeSafe(target, view, text, position + 1, SAFE);
  if (end === UNSAFE_ASCII) return writeEscaped(target, text, position);
  if (end === OTHER) return writeEncoded(target, view, text, position);
  target[position] = 34;
  target[end] = 34;
  return end + 1;
};

/** A string that needs escapes; `JSON.stringify` decides which. */
const writeEscaped = (target: Uint8Array, text: string, position: number): number =>
  position + codec.utf8(target, JSON.stringify(text), position);

/** Writes a string as UTF-8 first, and looks at the bytes then: that is faster than to look at its characters. */
const writeEncoded = (target: Uint8Array, view: DataView, text: string, position: number): number => {
  const from = position + 1;
  const to = from + codec.utf8(target, text, from);
  const isWhole = to - from === text.length || !HALVES.test(text);
  if (!isWhole || needsEscapes(view, from, to)) return writeEscaped(target, text, position);
  target[position] = 34;
  target[to] = 34;
  return to + 1;
};

/**
 * Whether there is a quote, a backslash or a control character among the bytes between two positions. Four at a time: of
 * bytes below 128, exactly those that are less than what is subtracted from them become 128 or more.
 */
const needsEscapes = (view: DataView, from: number, to: number): boolean => {
  let found = 0;
  let p = from;
  for (; p + 3 < to; p += 4) {
    const four = view.getInt32(p, true);
    const quotes = (four ^ 0x22222222) - 0x01010101;
    const backslashes = (four ^ 0x5c5c5c5c) - 0x01010101;
    found |= (quotes | backslashes | (four - 0x20202020)) & ~four;
  }
  for (; p < to; p++) {
    const one = view.getUint8(p);
    if (one < 32 || one === 34 || one === 92) return true;
  }
  return (found & 0x80808080) !== 0;
};

/** Writes a string that is known to be ASCII without anything to escape. */
export const writeAscii = (target: Uint8Array, text: string, position: number): number => {
  const { length } = text;
  target[position] = 34;
  for (let i = 0; i < length; i++) target[position + 1 + i] = text.charCodeAt(i);
  target[position + length + 1] = 34;
  return position + length + 2;
};

/** Writes text that is JSON already. */
export const writeRaw = (target: Uint8Array, text: string, position: number): number =>
  position + codec.utf8(target, text, position);

/** At most so many bytes does a string take: for long ones it pays to look. */
export const textRoom = (text: string): number => {
  if (!UNSAFE.test(text)) return text.length + 2;
  return (jsonText(text) ?? '').length * 3;
};
