import { PostgresAdapter, sql } from 'kysely';
import type { Violation } from '../../errors/statement-error.js';
import { type Form, formOf } from '../../kinds/kinds.js';
import type { Piece, SqlDialect } from '../dialect.js';
import { failureOf } from '../failure-of.js';
import { decodeValue, encodeValue, likePattern } from '../forms.js';
import { openEmbedded, openPostgres } from './open-postgres.js';
import { postgresCapacities } from './postgres-capacities.js';
import { readPostgres } from './read-postgres.js';

/** The fields that PostgreSQL's errors have, whatever the driver. */
interface PostgresError {
  readonly code?: string;
  readonly detail?: string;
  readonly column?: string;
  readonly constraint?: string;
  readonly message?: string;
}

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
};

/** Those that are about a value that is none of its column's. */
const ABOUT_VALUE = ['22003', '22021', '22P05', '22P02', '22007', '22008'];

/** Classes whose messages name things of the database, and quote no value: connections, names, rights, resources. */
const PLAIN = /^(?:08|0A|25|28|3D|3F|40|42|53|54|55|57|58)/;

const keyColumns = (detail = ''): string[] => {
  const [, names = ''] = /^Key \(([^)]*)\)=/.exec(detail) ?? [];
  return names === '' ? [] : names.split(', ').map((name) => name.replace(/^"(.*)"$/, '$1'));
};

/** No text of PostgreSQL holds the null character, and none may be sent. */
const hasNull = (value: unknown): boolean => typeof value === 'string' && value.includes('\0');

const NOTHING = sql`1 = 0`;

/** The millisecond of a number of seconds; that number is a little more or less than what it stands for. */
const moment = (seconds: unknown): Date => new Date(Math.floor(Number(seconds) * 1000 + 0.0005));

const asText = (ref: Piece): Piece => sql`${ref}::text`;

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
  choice: asText,
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
  selected: ({ type }, ref) => SELECTED[formOf(type)]?.(ref) ?? ref,
  decode: (type) => decodeValue(type, moment),
  encode: (type, value) => encodeValue(type, value, (moment) => moment.toISOString()),
  // A row is known to the millisecond, so it is put in order by that too: pages neither repeat nor skip one.
  ordered: ({ type }, ref) => (formOf(type) === 'moment' ? sql`date_trunc('milliseconds', ${ref})` : ref),
  comparable: (type, value) => {
    const encoded = encodeValue(type, value, (moment) => moment.toISOString());
    // The least text above it is meant; without the character, it is as good.
    return sql`${hasNull(encoded) ? String(encoded).replaceAll('\0', '') : encoded}`;
  },
  equals: ({ type }, ref, value) => {
    if (hasNull(value)) return NOTHING;
    return formOf(type) === 'json'
      ? sql`${ref}::jsonb = ${JSON.stringify(value)}::jsonb`
      : sql`${ref} = ${postgres.encode(type, value)}`;
  },
  same: (_column, one, other) => sql`${one} = ${other}`,
  contains: (ref, value) =>
    hasNull(value) ? NOTHING : sql`lower(${ref}) like ${likePattern(value)} escape '!'`,
  among: ({ type }, ref, values) => {
    const held = values.filter((value) => !hasNull(value));
    if (held.length === 0) return NOTHING;
    // Not every driver knows how to write an array of a type that the database's users made.
    if (formOf(type) === 'choice') return sql`${ref} in (${sql.join(held)})`;
    return sql`${ref} = any(${held.map((value) => postgres.encode(type, value))})`;
  },
  orderBy: (expression, descending, nullable) => {
    if (!descending) return expression;
    return nullable ? sql`${expression} desc nulls last` : sql`${expression} desc`;
  },
  lock: sql` for update`,
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
  capacities: postgresCapacities,
  failure: (error) => {
    const { code = '', detail, column, constraint = null, message = '' } = error as PostgresError;
    const reason = REASONS[code];
    const columns = column === undefined ? keyColumns(detail) : [column];
    return {
      ...failureOf(error, code, PLAIN.test(code) ? message : null),
      constraint,
      violation: reason === undefined ? null : { reason, columns },
      isAboutValue: ABOUT_VALUE.includes(code),
    };
  },
};
