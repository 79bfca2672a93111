import { sql } from 'kysely';
import type { SqlDialect, Violation } from './dialect.js';
import { decodeValue, encodeValue, likePattern } from './values.js';

interface MysqlError {
  readonly errno?: number;
  readonly sqlMessage?: string;
  readonly message?: string;
}

const REASONS: Readonly<Record<number, Violation['reason']>> = {
  1062: 'duplicate',
  1452: 'reference',
  1451: 'reference',
  1048: 'missing',
  1364: 'missing',
  1406: 'value',
  1264: 'value',
  1265: 'value',
  3819: 'value',
  4025: 'value',
};

/** What a message names: the columns of a foreign key, the index of a duplicate, a column. */
const columnsIn = (message: string): string[] => {
  const [, foreign] = /FOREIGN KEY \(([^)]*)\)/.exec(message) ?? [];
  if (foreign !== undefined) return foreign.split(', ').map((name) => name.replaceAll('`', ''));
  const [, index] = /for key '(?:[^'.]*\.)?([^']*)'/.exec(message) ?? [];
  if (index !== undefined) return [index];
  const [, column] = /(?:Column|Field|for column) [`']?(?:[^`']*`\.`)*([^`']+)[`']/.exec(message) ?? [];
  return column === undefined ? [] : [column];
};

/** Moments are kept without a zone, in UTC. */
const stored = (moment: Date): string => moment.toISOString().replace('T', ' ').replace('Z', '');

export const mysql: SqlDialect = {
  name: 'mysql',
  selected: ({ type }, ref) => {
    switch (type.kind) {
      case 'date':
        return sql`date_format(${ref}, '%Y-%m-%d')`;
      case 'timestamp':
        return sql`date_format(${ref}, '%Y-%m-%dT%H:%i:%s.%f')`;
      case 'bigint':
      case 'decimal':
      case 'json':
      case 'time':
        return sql`cast(${ref} as char)`;
      case 'text':
      case 'integer':
      case 'real':
      case 'bool':
      case 'uuid':
      case 'bytes':
      case 'oneOf':
        return ref;
      default:
        return type satisfies never;
    }
  },
  decode: (type) => decodeValue(type, (value) => new Date(`${String(value).slice(0, 23)}Z`)),
  encode: (type, value) => encodeValue(type, value, stored),
  // A row is known to the millisecond, so it is put in order by that too: pages neither repeat nor skip one.
  ordered: ({ type }, ref) =>
    type.kind === 'timestamp' ? sql`left(date_format(${ref}, '%Y-%m-%d %H:%i:%s.%f'), 23)` : ref,
  comparable: (type, value) => {
    const encoded = encodeValue(type, value, stored);
    // As text, a whole number would be compared inexactly.
    if (type.kind === 'bigint') return sql`cast(${encoded} as signed)`;
    if (type.kind === 'decimal') return sql`cast(${encoded} as decimal(65, 20))`;
    return sql`${encoded}`;
  },
  equals: ({ type }, ref, value) => {
    const isText = type.kind === 'text' || type.kind === 'oneOf';
    const same = sql`${ref} = ${mysql.comparable(type, value)}`;
    // Most collations take different letters for the same; the second comparison does not.
    return isText ? sql`(${same} and cast(${ref} as binary) = cast(${value} as binary))` : same;
  },
  contains: (ref, value) =>
    sql`lower(${ref}) collate utf8mb4_bin like ${likePattern(value)} collate utf8mb4_bin escape '!'`,
  among: ({ type }, ref, values) =>
    values.length === 0
      ? sql`1 = 0`
      : sql`${ref} in (${sql.join(values.map((value) => mysql.comparable(type, value)))})`,
  orderBy: (expression, descending, nullable) => {
    const order = descending ? sql`${expression} desc` : expression;
    return nullable ? sql`${expression} is null, ${order}` : order;
  },
  lock: sql` for update`,
  returns: false,
  violation: (error) => {
    const { errno = 0, sqlMessage, message = '' } = error as MysqlError;
    const reason = REASONS[errno];
    return reason === undefined ? null : { reason, columns: columnsIn(sqlMessage ?? message) };
  },
};
