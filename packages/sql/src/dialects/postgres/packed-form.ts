import { sql } from 'kysely';
import { type Form, formOf } from '../../kinds/kinds.js';
import type { PackedForm, Piece, Selected, SqlColumn } from '../dialect.js';
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
const selectedMoment: PackedForm['selected'] = ({ native }, ref) =>
  native.keeps === 'zoneless' ? ref : sql`${ref} at time zone 'UTC'`;

/** Whether a field's text is all there is to say of a value. */
const isWhole = ({ coded, native }: SqlColumn): boolean =>
  coded === null && (native.keeps === 'itself' || native.keeps === 'zoneless' || native.keeps === 'other');

const asText = (ref: Piece): Piece => sql`(${ref})::text`;

/** What is not the text that its fields have. */
const TEXTS: Readonly<Partial<Record<Form, (ref: Piece) => Piece>>> = {
  bool: (ref) => sql`left(${ref}::text, 1)`,
  bytes: (ref) => sql`chr(92) || 'x' || encode(${ref}, 'hex')`,
};

const textOf = ({ piece, column }: Selected): Piece =>
  ((column === null ? undefined : TEXTS[formOf(column.type)]) ?? asText)(piece);

/** Forms whose text has no tab, no newline and no backslash. */
const CLEAN: ReadonlySet<Form> = new Set([
  'number',
  'bool',
  'day',
  'clock',
  'span',
  'whole',
  'decimal',
  'moment',
]);

const isClean = (column: SqlColumn | null): boolean =>
  column !== null && (CLEAN.has(formOf(column.type)) || column.type.kind === 'uuid');

/** A text with what would end a field, or looks like an escape, escaped. Characters by their codes are the same in every session. */
const escaped = (text: Piece): Piece =>
  sql`replace(replace(replace((${text}) collate "C", chr(92), chr(92) || chr(92)), chr(9), chr(92) || 't'), chr(10), chr(92) || 'n')`;

const fieldOf = (selected: Selected): Piece => {
  const text = textOf(selected);
  return sql`coalesce(${isClean(selected.column) ? text : escaped(text)}, chr(92) || 'N')`;
};

/** A function takes a hundred arguments. */
const MOST = 90;

const joined = (fields: readonly Piece[]): Piece => {
  if (fields.length <= MOST) return sql`concat_ws(chr(9), ${sql.join(fields)})`;
  const groups = Array.from({ length: Math.ceil(fields.length / MOST) }, (_, i) =>
    joined(fields.slice(i * MOST, (i + 1) * MOST)),
  );
  return joined(groups);
};

/**
 * How PostgreSQL sends rows as lines: by COPY, and in batches.
 *
 * @param selected how columns are selected otherwise
 */
export const packedForm = (selected: PackedForm['selected']): PackedForm => ({
  selected: (column, ref) =>
    formOf(column.type) === 'moment' ? selectedMoment(column, ref) : selected(column, ref),
  decode: (column) => {
    const form = formOf(column.type);
    return form === 'bool' || form === 'bytes' ? DECODED[form] : decodeValue(column, DECODED.moment);
  },
  isWhole,
  // A moment's text is what the session says: this is the one that is read.
  isSure: (said) => said.every((row) => String(row['dates']).startsWith('ISO')),
  text: textOf,
  line: (all) => joined(all.map(fieldOf)),
});
