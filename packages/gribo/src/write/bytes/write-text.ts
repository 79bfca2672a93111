import { jsonText } from '../../values/json-text.js';
import { codec } from './platform.js';

/** Anything that JSON escapes, or that is not ASCII. */
const UNSAFE = /[^\x20\x21\x23-\x5b\x5d-\x7e]/;

/** Up to this length a loop is faster than calls into the platform. */
const SHORT = 96;

/** 1 for each ASCII character that JSON writes as it is. */
const SAFE: Uint8Array = Uint8Array.from({ length: 128 }, (_, code) =>
  code >= 32 && code < 127 && code !== 34 && code !== 92 ? 1 : 0,
);

/** A string that needs escapes or more than one byte a letter; `JSON.stringify` decides which. */
const writeUnsafe = (target: Uint8Array, text: string, position: number): number =>
  position + codec.utf8(target, JSON.stringify(text), position);

/** Writes a string as JSON. The caller has reserved `textRoom(text)` or more; `view` is of `target`. */
export const writeText = (target: Uint8Array, view: DataView, text: string, position: number): number => {
  const { length } = text;
  if (length > SHORT) return writeLong(target, text, position);
  let p = position + 1;
  let i = 0;
  target[position] = 34;
  // Four at a time: one check and one store for all of them.
  for (; i + 3 < length; i += 4) {
    const a = text.charCodeAt(i);
    const b = text.charCodeAt(i + 1);
    const c = text.charCodeAt(i + 2);
    const d = text.charCodeAt(i + 3);
    if ((a | b | c | d) > 127) return writeUnsafe(target, text, position);
    if (((SAFE[a] ?? 0) & (SAFE[b] ?? 0) & (SAFE[c] ?? 0) & (SAFE[d] ?? 0)) === 0) {
      return writeUnsafe(target, text, position);
    }
    view.setUint32(p, a | (b << 8) | (c << 16) | (d << 24), true);
    p += 4;
  }
  for (; i < length; i++) {
    const code = text.charCodeAt(i);
    if (code > 127 || SAFE[code] === 0) return writeUnsafe(target, text, position);
    target[p++] = code;
  }
  target[p] = 34;
  return p + 1;
};

const writeLong = (target: Uint8Array, text: string, position: number): number => {
  if (UNSAFE.test(text)) return writeUnsafe(target, text, position);
  target[position] = 34;
  codec.ascii(target, text, position + 1);
  target[position + text.length + 1] = 34;
  return position + text.length + 2;
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
