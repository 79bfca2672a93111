import { sql } from 'kysely';
import { formOf } from '../../kinds/kinds.js';
import type { CopiedForm, SqlColumn } from '../dialect.js';
import { decodeValue } from '../forms.js';

/** The number at some places of a text. */
const at = (text: string, from: number, to: number): number => Number(text.slice(from, to));

/** A moment in UTC as its text (`2026-03-01 06:30:00.25`), to the millisecond; none for what is written otherwise. */
const momentOf = (value: unknown): Date => {
  const text = String(value);
  const isSimple = text[4] === '-' && text[10] === ' ' && (text.length === 19 || text[19] === '.');
  if (!isSimple) return new Date(Number.NaN);
  const milliseconds = at(text.slice(20, 23).padEnd(3, '0'), 0, 3);
  const moment = new Date(0);
  // Years below 100 are meant as they are.
  moment.setUTCFullYear(at(text, 0, 4), at(text, 5, 7) - 1, at(text, 8, 10));
  moment.setUTCHours(at(text, 11, 13), at(text, 14, 16), at(text, 17, 19), milliseconds);
  return moment;
};

const bytesOf = (text: unknown): Uint8Array => Buffer.from(String(text).slice('\\x'.length), 'hex');

const DECODED = { bool: (text: unknown) => text === 't', bytes: bytesOf, moment: momentOf } as const;

/** Moments are text of a zone that is known: of the session's it would not be. */
const selectedMoment: CopiedForm['selected'] = ({ native }, ref) =>
  native.keeps === 'zoneless' ? ref : sql`${ref} at time zone 'UTC'`;

/** Whether a field's text is all there is to say of a value. */
const isWhole = ({ coded, native }: SqlColumn): boolean =>
  coded === null && (native.keeps === 'itself' || native.keeps === 'zoneless' || native.keeps === 'other');

/**
 * How PostgreSQL sends rows by COPY.
 *
 * @param selected how columns are selected otherwise
 */
export const copiedForm = (selected: CopiedForm['selected']): CopiedForm => ({
  selected: (column, ref) =>
    formOf(column.type) === 'moment' ? selectedMoment(column, ref) : selected(column, ref),
  decode: (column) => {
    const form = formOf(column.type);
    return form === 'bool' || form === 'bytes' ? DECODED[form] : decodeValue(column, DECODED.moment);
  },
  isWhole,
});
