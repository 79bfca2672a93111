import { PostgresAdapter, sql } from 'kysely';
import type { Passing, Violation } from '../../errors/statement-error.js';
import { type Form, formOf } from '../../kinds/kinds.js';
import { arrayLiteral } from '../arrays.js';
import type { Piece, SqlColumn, SqlDialect } from '../dialect.js';
import { failureOf } from '../failure-of.js';
import { exactFigures } from '../figures.js';
import { decodeValue, encodeValue, likePattern } from '../forms.js';
import { ranked, rankOf } from '../ranked.js';
import { openEmbedded, openPostgres } from './open-postgres.js';
import { packedForm } from './packed-form.js';
import { postgresFacts } from './postgres-facts.js';
import { readPostgres } from './read-postgres.js';

/** The fields that PostgreSQL's errors have, whatever the driver. */
interface PostgresError {
  readonly code?: string;
  readonly detail?: string;
  readonly column?: string;
  readonly constraint?: string;
  /** The server's own function that failed. */
  readonly routine?: string;
}

/** What a trigger or a function raises names whatever its author likes, under any code. */
const isRaised = ({ routine = '' }: PostgresError): boolean =>
  /^exec_stmt_raise$|^PLy|^pltcl|^plperl/.test(routine);

/** Classes of errors (appendix A of its manual) that mean that a value or row does not fit. */
const REASONS: Readonly<Record<string, Violation['reason']>> = {
  '23505': 'duplicate',
  '23503': 'reference',
  '23502': 'missing',
  '23514': 'value',
  '22001': 'value',
  '22003': 'value',
  '22021': 'value',
  '22P05': 'value',
  '22P02': 'value',
  '22007': 'value',
  '22008': 'value',
  // A column that only the database sets.
  '428C9': 'value',
};

/** Those that are about a value that is none of its column's. */
const ABOUT_VALUE = ['22003', '22021', '22P05', '22P02', '22007', '22008'];

/** The transaction was in the way of another one: deadlocks, and what could not be put in one order. */
const AGAIN = ['40001', '40P01'];

/**
 * Connections (08), resources (53), locks that were not to be had in time (55P03), cancelled or too slow (57014), a server that is going or
 * coming (57P), one that only reads, such as a standby (25006), or whose patience with a transaction is over (25P03).
 */
const LATER = /^(?:08|53|57P0|57014|55P03|25006|25P03)/;

const passingOf = (code: string): Passing | null => {
  if (AGAIN.includes(code)) return 'again';
  return LATER.test(code) ? 'later' : null;
};

const keyColumns = (detail = ''): string[] => {
  const [, made] = /^Column "(.*)" is an? (?:identity|generated) column/.exec(detail) ?? [];
  if (made !== undefined) return [made];
  const [, names = ''] = /^Key \(([^)]*)\)=/.exec(detail) ?? [];
  return names === '' ? [] : names.split(', ').map((name) => name.replace(/^"(.*)"$/, '$1'));
};

/** No text of PostgreSQL holds the null character, and none may be sent. */
const hasNull = (value: unknown): boolean => typeof value === 'string' && value.includes('\0');

const NOTHING = sql`1 = 0`;

/** The millisecond of a number of seconds; that number is a little more or less than what it stands for. */
const moment = (seconds: unknown): Date => new Date(Math.floor(Number(seconds) * 1000 + 0.0005));

const asText = (ref: Piece): Piece => sql`${ref}::text`;

/** A text as it is, whatever its collation takes for the same. */
const toTheLetter = (ref: Piece): Piece => sql`${ref}::text collate "C"`;

/** The place of a choice, whether it is kept as a text or in an enumeration. */
const placed = (column: SqlColumn, ref: Piece): Piece =>
  ranked(column, asText(ref), (choice) => sql`${choice}`);

/** A part of an interval as text. */
const part = (name: string, ref: Piece): Piece => sql`extract(${sql.raw(name)} from ${ref})::numeric::text`;

/**
 * Drivers make days and times of day into moments of their own time zone, and large numbers inexact. Moments are
 * seconds since 1970, exact to the microsecond; without a zone, a moment is taken as UTC.
 */
const SELECTED: Readonly<Partial<Record<Form, (ref: Piece) => Piece>>> = {
  day: asText,
  clock: asText,
  whole: asText,
  decimal: asText,
  json: asText,
  array: asText,
  choice: asText,
  // An interval's text is what the session says; this is ISO 8601, and read in the one way that it is written.
  span: (ref) =>
    sql`'P' || ${part('year', ref)} || 'Y' || ${part('month', ref)} || 'M' || ${part('day', ref)} || 'DT' || ${part('hour', ref)} || 'H' || ${part('minute', ref)} || 'M' || ${part('second', ref)} || 'S'`,
  moment: (ref) => sql`extract(epoch from ${ref})::float8`,
};

export const postgres: SqlDialect = {
  name: 'postgres',
  title: 'PostgreSQL',
  speaks: (adapter) => adapter instanceof PostgresAdapter,
  opens: {
    postgres: openPostgres,
    postgresql: openPostgres,
    pglite: (_url, folder) => openEmbedded(folder),
  },
  readSchema: readPostgres,
  isLoose: false,
  nests: true,
  noLimit: sql``,
  selected: ({ type, native }, ref) => {
    if (native.keeps === 'array') return sql`to_json(${ref}::text[])::text`;
    if (type.kind === 'duration' && native.keeps === 'text') return ref;
    return native.keeps === 'other' ? asText(ref) : (SELECTED[formOf(type)]?.(ref) ?? ref);
  },
  decode: (column) => decodeValue(column, moment),
  encode: ({ type, native }, value) =>
    native.keeps === 'array' && Array.isArray(value)
      ? arrayLiteral(value)
      : encodeValue(type, value, (moment) => moment.toISOString()),
  // A row is known to the millisecond, so it is put in order by that too: pages neither repeat nor skip one.
  ordered: (column, ref) => {
    if (formOf(column.type) === 'moment') return sql`date_trunc('milliseconds', ${ref})`;
    if (column.native.isInOrder) return ref;
    return column.type.kind === 'oneOf' ? placed(column, ref) : toTheLetter(ref);
  },
  comparable: (column, value) => {
    if (column.type.kind === 'oneOf' && !column.native.isInOrder) return rankOf(column, value);
    const encoded = encodeValue(column.type, value, (moment) => moment.toISOString());
    // The least text above it is meant; without the character, it is as good.
    return sql`${hasNull(encoded) ? String(encoded).replaceAll('\0', '') : encoded}`;
  },
  since: (column, ref, value) => sql`${ref} >= ${postgres.comparable(column, value)}`,
  earlier: (column, ref, value) => sql`${ref} < ${postgres.comparable(column, value)}`,
  equals: (column, ref, value) => {
    const { type, native } = column;
    if (hasNull(value)) return NOTHING;
    if (formOf(type) === 'json') return sql`${ref}::jsonb = ${JSON.stringify(value)}::jsonb`;
    // Not every type is compared with its text, nor at all.
    if (native.keeps === 'other') return sql`${toTheLetter(ref)} = ${value}`;
    const same = sql`${ref} = ${postgres.encode(column, value)}`;
    // An index helps with the first; the second is what is meant.
    return native.isLoose ? sql`(${same} and ${toTheLetter(ref)} = ${value})` : same;
  },
  // Two collations cannot be compared without saying which one is meant, nor two ways to keep a moment or a UUID.
  paired: (column, ref) => {
    const { type, native } = column;
    if (type.kind === 'text') return toTheLetter(ref);
    if (type.kind === 'uuid') return asText(ref);
    if (type.kind === 'oneOf') return placed(column, ref);
    if (formOf(type) === 'moment') return sql`floor(extract(epoch from ${ref}) * 1000)`;
    return native.keeps === 'single' ? sql`${ref}::text::float8` : ref;
  },
  contains: ({ native }, ref, value) => {
    if (hasNull(value)) return NOTHING;
    // A pattern takes a collation that tells texts apart; that of the database always does.
    const text = native.isLoose || native.keeps === 'other' ? sql`${ref}::text collate "default"` : ref;
    return sql`lower(${text}) like ${likePattern(value)} escape '!'`;
  },
  among: (column, ref, values) => {
    const { type, native } = column;
    const held = values.filter((value) => !hasNull(value));
    if (held.length === 0) return NOTHING;
    // Not every driver knows how to write an array of a type that the database's users made.
    if (formOf(type) === 'choice') return sql`${ref} in (${sql.join(held)})`;
    const encoded = held.map((value) => postgres.encode(column, value));
    if (native.keeps === 'other') return sql`${toTheLetter(ref)} = any(${encoded})`;
    // An index helps with the first; the second is what is meant.
    if (native.isLoose)
      return sql`(${ref} in (${sql.join(encoded)}) and ${toTheLetter(ref)} = any(${encoded}))`;
    return sql`${ref} = any(${encoded})`;
  },
  figures: exactFigures(
    () => postgres,
    ({ type }, ref) => (type.kind === 'real' ? sql`sum(${ref}::float8)` : sql`sum(${ref})::text`),
  ),
  orderBy: (expression, descending, nullable) => {
    if (!descending) return expression;
    return nullable ? sql`${expression} desc nulls last` : sql`${expression} desc`;
  },
  lock: sql` for update`,
  steady: 'serializable',
  inserting: {
    // Their number is sent in two bytes.
    parameters: 65_535,
    placeholder: (place) => `$${place}`,
    takesDefault: true,
    nothing: 'default values',
    // Rows of `values` are inserted one after the other.
    tells: 'inOrder',
    step: null,
  },
  facts: postgresFacts,
  packs: packedForm((column, ref) => postgres.selected(column, ref)),
  failure: (error) => {
    const { code = '', detail, column, constraint = null } = error as PostgresError;
    const reason = REASONS[code];
    const columns = column === undefined ? keyColumns(detail) : [column];
    return {
      ...failureOf(error, { state: code }, passingOf(code)),
      constraint: isRaised(error as PostgresError) ? null : constraint,
      violation: reason === undefined ? null : { reason, columns },
      isAboutValue: ABOUT_VALUE.includes(code),
    };
  },
};
