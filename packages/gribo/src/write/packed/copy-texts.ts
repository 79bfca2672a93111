import { codec } from '../bytes/platform.js';
import { cellText, FORMULA, valueCell } from '../lines/cell-text.js';
import { at, BACKSLASH, type CopyField, type CopyFieldWith, copied, NOT } from './copy-field.js';
import { unpackField } from './unpack.js';

/*
 * What a program over packed rows may call for texts, choices and JSON.
 */

const QUOTE = 34;
const COMMA = 44;

/** Whether a field stands for null. */
export const isNull = (source: Uint8Array, from: number, to: number): boolean =>
  to - from === 2 && source[from] === BACKSLASH && source[from + 1] === 78;

/** 1 for each byte that stands in JSON text as it is. */
const PLAIN: Uint8Array = Uint8Array.from({ length: 256 }, (_, code) =>
  code >= 32 && code !== QUOTE && code !== BACKSLASH ? 1 : 0,
);

/** 1 for each letter behind a backslash that JSON escapes by the same one. */
const SAME: Uint8Array = Uint8Array.from({ length: 256 }, (_, code) =>
  '\\bfnrt'.includes(String.fromCharCode(code)) ? 1 : 0,
);

/** The bytes of each control character, as JSON escapes it. */
const CONTROLS: readonly Uint8Array[] = Array.from({ length: 32 }, (_, code) =>
  new TextEncoder().encode(JSON.stringify(String.fromCharCode(code)).slice(1, -1)),
);

const control = (target: Uint8Array, position: number, code: number): number => {
  const escaped = CONTROLS[code] as Uint8Array;
  return copied(target, position, escaped, 0, escaped.length);
};

/** Text, as a string of JSON. */
export const text: CopyField = (target, p, source, from, to) => {
  let end = p;
  target[end++] = QUOTE;
  for (let i = from; i < to; i++) {
    const code = at(source, i);
    if (PLAIN[code] === 1) {
      target[end++] = code;
      continue;
    }
    if (code === BACKSLASH) {
      const letter = at(source, ++i);
      if (SAME[letter] === 1) {
        target[end++] = BACKSLASH;
        target[end++] = letter;
      } else if (letter === 118) end = control(target, end, 11);
      else return NOT;
    } else if (code === QUOTE) {
      target[end++] = BACKSLASH;
      target[end++] = QUOTE;
    } else end = control(target, end, code);
  }
  target[end++] = QUOTE;
  return end;
};

/** A field's text, where it has escapes or what a cell quotes. */
const anyCell: CopyFieldWith<boolean> = (target, p, source, from, to, isGuarded) => {
  const value = unpackField(codec.read(source, to, from));
  return value === null ? NOT : p + codec.utf8(target, cellText(value, isGuarded), p);
};

/** Text, as a cell of CSV. */
export const cell: CopyField = (target, p, source, from, to) => {
  if (from === to) return anyCell(target, p, source, from, to, false);
  let end = p;
  for (let i = from; i < to; i++) {
    const code = at(source, i);
    if (code === QUOTE || code === COMMA || code === BACKSLASH || code === 13)
      return anyCell(target, p, source, from, to, false);
    target[end++] = code;
  }
  return end;
};

/** 1 for each byte that text may begin with which a spreadsheet runs, and for escapes and wide forms, which are looked at. */
const MAY_RUN: Uint8Array = Uint8Array.from({ length: 256 }, (_, code) =>
  FORMULA.test(String.fromCharCode(code)) || code === BACKSLASH || code === 0xef ? 1 : 0,
);

/** Text, as a cell of CSV that a spreadsheet must not run. */
export const guardedCell: CopyField = (target, p, source, from, to) =>
  from < to && MAY_RUN[at(source, from)] === 1
    ? anyCell(target, p, source, from, to, true)
    : cell(target, p, source, from, to);

/** What a field holds as JSON, written in some way. */
const parsed = (
  target: Uint8Array,
  p: number,
  field: string,
  written: (value: unknown) => string,
): number => {
  const text = unpackField(field);
  if (text === null) return NOT;
  try {
    return p + codec.utf8(target, written(JSON.parse(text)), p);
  } catch {
    return NOT;
  }
};

/** JSON, written as JavaScript does. */
export const json: CopyField = (target, p, source, from, to) =>
  parsed(target, p, codec.read(source, to, from), (value) => JSON.stringify(value));

/** JSON, as a cell of CSV. */
export const jsonCell: CopyFieldWith<boolean> = (target, p, source, from, to, isGuarded) =>
  parsed(target, p, codec.read(source, to, from), (value) => valueCell(value, isGuarded));

/** What is written for each of a column's choices, by the bytes of its field. */
export interface PackedChoice {
  readonly field: Uint8Array;
  readonly written: Uint8Array;
}

const isSame = (choice: Uint8Array, source: Uint8Array, from: number): boolean => {
  for (let i = 0; i < choice.length; i++) if (choice[i] !== source[from + i]) return false;
  return true;
};

/** One of some texts. */
export const choice: CopyFieldWith<readonly PackedChoice[]> = (target, p, source, from, to, choices) => {
  for (const { field, written } of choices) {
    if (field.length === to - from && isSame(field, source, from))
      return copied(target, p, written, 0, written.length);
  }
  return NOT;
};
