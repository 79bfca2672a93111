import { writeBase64 } from '../../util/base64.js';
import { codec } from '../bytes/platform.js';
import type { Sink } from '../bytes/sink.js';
import { momentDigits } from '../bytes/write-moment.js';
import { OTHER, SHORT, UNSAFE_ASCII, writeSafe } from '../bytes/write-text.js';
import { cellText, FORMULA, valueCell } from './cell-text.js';

/*
 * What a generated program for CSV may call besides what one for JSON may.
 */

export { momentDigits };

const QUOTE = 34;
const COMMA = 44;

/** 1 for each ASCII character that stands in a cell as it is. */
const SAFE: Uint8Array = Uint8Array.from({ length: 128 }, (_, code) =>
  code === QUOTE || code === COMMA || code === 10 || code === 13 ? 0 : 1,
);

const writeAny = (target: Uint8Array, text: string, position: number, isGuarded: boolean): number =>
  position + codec.utf8(target, cellText(text, isGuarded), position);

/** Writes text as a cell. The caller has reserved six bytes a character, and three more. */
export const cell = (target: Uint8Array, view: DataView, text: string, position: number): number => {
  if (text.length > SHORT) return writeEncoded(target, view, text, position);
  if (text === '') return writeAny(target, text, position, false);
  const end = writeSafe(target, view, text, position, SAFE);
  if (end === UNSAFE_ASCII) return writeAny(target, text, position, false);
  return end === OTHER ? writeEncoded(target, view, text, position) : end;
};

/** Writes text as UTF-8 first, and looks at the bytes then: that is faster than to look at its characters. */
const writeEncoded = (target: Uint8Array, view: DataView, text: string, position: number): number => {
  const to = position + codec.utf8(target, text, position);
  return needsQuotes(view, position, to) ? writeAny(target, text, position, false) : to;
};

/**
 * Whether there is a quote, a comma or a line's end among the bytes between two positions. Four at a time: of bytes below
 * 128, exactly those that are zero after they were compared become 128 or more when one is subtracted.
 */
const needsQuotes = (view: DataView, from: number, to: number): boolean => {
  let found = 0;
  let p = from;
  for (; p + 3 < to; p += 4) {
    const four = view.getInt32(p, true);
    const quotes = (four ^ 0x22222222) - 0x01010101;
    const commas = (four ^ 0x2c2c2c2c) - 0x01010101;
    const returns = (four ^ 0x0d0d0d0d) - 0x01010101;
    const newlines = (four ^ 0x0a0a0a0a) - 0x01010101;
    found |= (quotes | commas | returns | newlines) & ~four;
  }
  for (; p < to; p++) {
    const one = view.getUint8(p);
    if (one === QUOTE || one === COMMA || one === 10 || one === 13) return true;
  }
  return (found & 0x80808080) !== 0;
};

/** The same for text that a spreadsheet must not run. */
export const guardedCell = (target: Uint8Array, view: DataView, text: string, position: number): number =>
  FORMULA.test(text) ? writeAny(target, text, position, true) : cell(target, view, text, position);

/** Writes text that is known to be ASCII without anything to quote. */
export const plainCell = (target: Uint8Array, text: string, position: number): number => {
  const { length } = text;
  for (let i = 0; i < length; i++) target[position + i] = text.charCodeAt(i);
  return position + length;
};

/** Bytes as base64; no bytes are empty text. */
export const base64Cell = (
  target: Uint8Array,
  source: Uint8Array,
  position: number,
  isGuarded: boolean,
): number => {
  if (source.length === 0) return writeAny(target, '', position, isGuarded);
  const end = writeBase64(target, source, position);
  if (!isGuarded || target[position] !== 43) return end;
  target.copyWithin(position + 1, position, end);
  target[position] = 39;
  return end + 1;
};

/** A JSON text: a text in it as itself, null as nothing. */
export const jsonCell = (target: Uint8Array, json: string, position: number, isGuarded: boolean): number =>
  position + codec.utf8(target, valueCell(JSON.parse(json), isGuarded), position);

/** Makes a cell of the JSON text between two positions, which holds no line's end; returns the position after it. */
export const quotedFrom = (sink: Sink, from: number, to: number): number => {
  let quotes = 0;
  let commas = 0;
  for (let i = from; i < to; i++) {
    const code = sink.buffer[i];
    if (code === QUOTE) quotes++;
    else if (code === COMMA) commas++;
  }
  if (quotes + commas === 0) return to;
  sink.reserve(to, quotes + 2);
  const { buffer } = sink;
  let p = to + quotes + 2;
  buffer[--p] = QUOTE;
  for (let i = to - 1; i >= from; i--) {
    const code = buffer[i] ?? 0;
    buffer[--p] = code;
    if (code === QUOTE) buffer[--p] = QUOTE;
  }
  buffer[--p] = QUOTE;
  return to + quotes + 2;
};
