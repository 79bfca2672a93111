import type { ListSelection } from '../../plan/condition.js';
import type { LinkPlan } from '../../plan/entity-plan.js';
import { figures } from '../../plan/figures.js';
import { base64Length, writeBase64 } from '../../util/base64.js';
import type { Sink } from '../bytes/sink.js';
import { textRoom } from '../bytes/write-text.js';
import type { LooseRow } from '../read-column.js';
import { type Facts, rowsOf } from '../read-value.js';
import { Halt } from './halt.js';

/*
 * What a generated program may call, each under its own name: here, and inside stand-alone
 * serializers, which take along what they use.
 */

export { base64Text } from '../../util/base64.js';
export { setMember } from '../../util/set-member.js';
export { clockText as clock, dayText as day, isDate } from '../../values/calendar.js';
export { isBytes, isDecimal, isUuid } from '../../values/checks.js';
export { durationText as duration } from '../../values/durations.js';
export { wholeNumber as whole } from '../../values/exact.js';
export { jsonText as json } from '../../values/json-text.js';
export { listText as list } from '../../values/list-text.js';
export { writeMoment as moment } from '../bytes/write-moment.js';
export { writeNumber as number } from '../bytes/write-number.js';
export { writeAscii as ascii, writeRaw as raw, writeText as text } from '../bytes/write-text.js';
export { arrayLike as rows } from '../read-column.js';
export { figured as figure } from '../read-value.js';

/** Bytes as base64 with its quotes. */
export const base64 = (target: Uint8Array, source: Uint8Array, position: number): number => {
  target[position] = 34;
  const end = writeBase64(target, source, position + 1);
  target[end] = 34;
  return end + 1;
};

export const base64Room = (source: Uint8Array): number => base64Length(source.length) + 2;

/** A literal too long to be written byte by byte in the program. */
export const copy = (target: Uint8Array, source: Uint8Array, position: number): number => {
  target.set(source, position);
  return position + source.length;
};

/** Makes room for the texts by looking at them, because the quick estimate did not fit. */
export const room = (
  sink: Sink,
  position: number,
  rest: number,
  texts: readonly (string | null | undefined)[],
): void => {
  let more = rest;
  for (const text of texts) if (text != null) more += textRoom(text);
  sink.reserve(position, more);
};

export const halt = (member: string): never => {
  throw new Halt(member);
};

export const copyOf = (text: string): unknown => JSON.parse(text);

export const select = (
  row: LooseRow,
  link: LinkPlan,
  selection: ListSelection,
  facts: Facts,
): ArrayLike<unknown> => rowsOf(row, link, selection, facts);

/** Undefined where the rows have to be counted, or what is there is no count. */
export const count = (
  row: LooseRow,
  link: LinkPlan,
  selection: ListSelection,
  facts: Facts,
): number | undefined => {
  const known = (row[figures] as Readonly<Record<string, unknown>> | undefined)?.[link.name + selection.name];
  if (known === undefined) return rowsOf(row, link, selection, facts).length;
  return Number.isInteger(known) && (known as number) >= 0 ? (known as number) : undefined;
};

/** The objects of all rows of a list. */
export const all = (
  list: ArrayLike<unknown>,
  make: (row: unknown, facts: Facts) => unknown,
  facts: Facts,
): unknown[] => {
  const made: unknown[] = [];
  for (let i = 0; i < list.length; i++) made.push(make(list[i], facts));
  return made;
};
