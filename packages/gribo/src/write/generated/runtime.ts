import { countName, counts } from '../../plan/count-name.js';
import type { LinkPlan } from '../../plan/entity-plan.js';
import type { ListSelection } from '../../plan/filter.js';
import { base64Length, base64Text, writeBase64 } from '../../util/base64.js';
import { jsonText } from '../../util/json-text.js';
import type { Sink } from '../bytes/sink.js';
import { writeMoment } from '../bytes/write-moment.js';
import { writeNumber } from '../bytes/write-number.js';
import { textRoom, writeAscii, writeRaw, writeText } from '../bytes/write-text.js';
import { arrayLike, type LooseRow, rowsOf } from '../read-value.js';
import { CLOCK, dayText, isDate } from '../values/calendar.js';
import { DECIMAL, UUID, wholeNumber } from '../values/exact.js';
import { Halt } from './halt.js';

/** What a generated program may call. Its functions are handed over by name. */
export const runtime: Readonly<Record<string, unknown>> = {
  text: writeText,
  ascii: writeAscii,
  raw: writeRaw,
  number: writeNumber,
  moment: writeMoment,

  /** Bytes as base64 with its quotes. */
  base64: (target: Uint8Array, source: Uint8Array, position: number): number => {
    target[position] = 34;
    const end = writeBase64(target, source, position + 1);
    target[end] = 34;
    return end + 1;
  },
  base64Room: (source: Uint8Array): number => base64Length(source.length) + 2,
  base64Text,

  /** A literal too long to be written byte by byte in the program. */
  copy: (target: Uint8Array, source: Uint8Array, position: number): number => {
    target.set(source, position);
    return position + source.length;
  },

  /** Makes room for the texts by looking at them, because the quick estimate did not fit. */
  room: (sink: Sink, position: number, rest: number, texts: readonly (string | null | undefined)[]): void => {
    let more = rest;
    for (const text of texts) if (text != null) more += textRoom(text);
    sink.reserve(position, more);
  },

  halt: (member: string): never => {
    throw new Halt(member);
  },

  isDate,
  isClock: (value: unknown): boolean => typeof value === 'string' && CLOCK.test(value),
  isDecimal: (value: unknown): boolean => typeof value === 'string' && DECIMAL.test(value),
  isUuid: (value: unknown): boolean => typeof value === 'string' && UUID.test(value),
  isBytes: (value: unknown): boolean => value instanceof Uint8Array,
  day: dayText,
  whole: wholeNumber,
  json: jsonText,
  copyOf: (text: string): unknown => JSON.parse(text),

  rows: arrayLike,
  select: (row: LooseRow, link: LinkPlan, selection: ListSelection): ArrayLike<unknown> =>
    rowsOf(row, link, selection),
  /** Undefined where the rows have to be counted, or what is there is no count. */
  count: (row: LooseRow, link: LinkPlan, selection: ListSelection): number | undefined => {
    const known = (row[counts] as Readonly<Record<string, unknown>> | undefined)?.[
      countName(link, selection)
    ];
    if (known === undefined) return rowsOf(row, link, selection).length;
    return Number.isInteger(known) && (known as number) >= 0 ? (known as number) : undefined;
  },

  /** The objects of all rows of a list. */
  all: (rows: ArrayLike<unknown>, make: (row: unknown) => unknown): unknown[] => {
    const made: unknown[] = [];
    for (let i = 0; i < rows.length; i++) made.push(make(rows[i]));
    return made;
  },

  setMember: (target: object, name: string, value: unknown): void => {
    Object.defineProperty(target, name, { value, enumerable: true, configurable: true, writable: true });
  },
};
