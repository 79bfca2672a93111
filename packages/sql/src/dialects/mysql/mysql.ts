import { MysqlAdapter, sql } from 'kysely';
import type { Passing, Violation } from '../../errors/statement-error.js';
import { type Form, formOf } from '../../kinds/kinds.js';
import type { Piece, SqlColumn, SqlDialect } from '../dialect.js';
import { failureOf } from '../failure-of.js';
import { exactFigures } from '../figures.js';
import { decodeValue, encodeValue, likePattern } from '../forms.js';
import { ranked, rankOf } from '../ranked.js';
import { mysqlFacts } from './mysql-facts.js';
import { mysqlIsolation } from './mysql-isolation.js';
import { openMysql } from './open-mysql.js';
import { readMysql } from './read-mysql.js';

interface MysqlError {
  readonly code?: string;
  readonly errno?: number;
  readonly sqlState?: string;
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
  1366: 'value',
  1292: 'value',
  1525: 'value',
  3140: 'value',
  // A column that only the database sets.
  1906: 'value',
  3105: 'value',
};

/** Those that are about a value that is none of its column's. */
const ABOUT_VALUE = [1267, 1270, 1271, 1366, 1292, 1525, 1264];

/** Deadlocks, also those that a cluster finds when it commits; locks that were not to be had in time; rows that changed since they were read. */
const AGAIN = [1205, 1213, 1020, 1614];

/**
 * Connections: too many, lost, killed; a server that is going, or only reads; no room; a statement that was ended or took too long;
 * a node that is not in its cluster (1047).
 */
const LATER = [
  1021, 1028, 1040, 1041, 1047, 1053, 1079, 1114, 1152, 1158, 1159, 1160, 1161, 1203, 1226, 1290, 1317, 1792,
  1836, 1927, 1969, 2002, 2003, 2006, 2013, 3024, 4031,
];

/** What the driver says of connections. */
const LOST = /^PROTOCOL_|^POOL_/;

const passingOf = (errno: number, code: string): Passing | null => {
  if (AGAIN.includes(errno)) return 'again';
  return LATER.includes(errno) || LOST.test(code) ? 'later' : null;
};

/** The key that a duplicate breaks: it stands at the end, behind the value, which may say anything. */
const keyIn = (message: string): string | null => / for key '([^']*)'$/.exec(message)?.[1] ?? null;

/** What a message names: the columns of a foreign key, the index of a duplicate, a column. */
const columnsIn = (reason: Violation['reason'], message: string): string[] => {
  if (reason === 'duplicate') {
    const index = keyIn(message);
    return index === null ? [] : [index.slice(index.lastIndexOf('.') + 1)];
  }
  const [, foreign] = /FOREIGN KEY \(([^)]*)\)/.exec(message) ?? [];
  if (foreign !== undefined) return foreign.split(', ').map((name) => name.replaceAll('`', ''));
  // A message about a value quotes it in front of the column.
  const [, column] = /.*(?:Column|Field|for column) [`']?(?:[^`']*`\.`)*([^`']+)[`']/s.exec(message) ?? [];
  return column === undefined ? [] : [column];
};

/** The constraint that a message names. Only that of a duplicate quotes a value. */
const constraintIn = (reason: Violation['reason'], message: string): string | null =>
  reason === 'duplicate' ? keyIn(message) : (/CONSTRAINT `([^`]+)`/.exec(message)?.[1] ?? null);

/** The most digits after the point that it knows. */
const MOST_PLACES = 30;

/** As many digits after the point as a value has, or its column. */
const placesOf = (value: unknown, { scale }: { readonly scale: number }): number =>
  Math.min(MOST_PLACES, Math.max(scale, String(value).split('.')[1]?.length ?? 0));

/** Moments are kept without a zone, in UTC. */
const stored = (moment: Date): string => moment.toISOString().replace('T', ' ').replace('Z', '');

/** The bytes of a text, whatever character set its column has. */
const exactly = (ref: Piece): Piece => sql`cast(convert(${ref} using utf8mb4) as binary)`;

const asText = (ref: Piece): Piece => sql`cast(${ref} as char)`;

/** Whether equality is one of letters. */
const isLettered = ({ type: { kind } }: SqlColumn): boolean => kind === 'text' || kind === 'oneOf';

const SELECTED: Readonly<Partial<Record<Form, (ref: Piece) => Piece>>> = {
  day: (ref) => sql`date_format(${ref}, '%Y-%m-%d')`,
  moment: (ref) => sql`date_format(${ref}, '%Y-%m-%dT%H:%i:%s.%f')`,
  whole: asText,
  decimal: asText,
  json: asText,
  array: asText,
  clock: asText,
};

export const mysql: SqlDialect = {
  name: 'mysql',
  title: 'MySQL or MariaDB',
  speaks: (adapter) => adapter instanceof MysqlAdapter,
  opens: { mysql: openMysql, mariadb: openMysql },
  readSchema: readMysql,
  isLoose: true,
  nests: false,
  noLimit: sql`\nlimit ${sql.lit(Number.MAX_SAFE_INTEGER)}`,
  selected: ({ type, native }, ref) => {
    // Of a number of 32 bits, it writes fewer digits than it has.
    if (native.keeps === 'single') return sql`${ref} + 0e0`;
    if (native.keeps === 'bits') return sql`cast(${ref} + 0 as char)`;
    return SELECTED[formOf(type)]?.(ref) ?? ref;
  },
  decode: (column) => decodeValue(column, (value) => new Date(`${String(value).slice(0, 23)}Z`)),
  encode: ({ type }, value) => encodeValue(type, value, stored),
  // A row is known to the millisecond, so it is put in order by that too: pages neither repeat nor skip one.
  ordered: (column, ref) => {
    const { type, native } = column;
    if (formOf(type) === 'moment') return sql`left(date_format(${ref}, '%Y-%m-%d %H:%i:%s.%f'), 23)`;
    if (native.isInOrder) return ref;
    if (type.kind === 'oneOf')
      return ranked(column, exactly(ref), (choice) => sql`cast(${choice} as binary)`);
    return type.kind === 'text' ? exactly(ref) : asText(ref);
  },
  comparable: (column, value) => {
    const { type, native } = column;
    if (native.keeps === 'single' && typeof value === 'number') return sql`${Math.fround(value)}`;
    if (type.kind === 'oneOf') return rankOf(column, value);
    if (type.kind === 'text' && !native.isInOrder) return sql`cast(${value} as binary)`;
    const encoded = encodeValue(type, value, stored);
    // As text, a whole number would be compared inexactly; as a signed one, the upper half of the unsigned wrongly.
    if (formOf(type) === 'whole') return sql`cast(${encoded} as decimal(65))`;
    if (type.kind === 'decimal')
      return sql`cast(${encoded} as decimal(65, ${sql.lit(placesOf(value, type))}))`;
    return sql`${encoded}`;
  },
  since: (column, ref, value) => sql`${ref} >= ${mysql.comparable(column, value)}`,
  earlier: (column, ref, value) => sql`${ref} < ${mysql.comparable(column, value)}`,
  equals: (column, ref, value) => {
    if (!isLettered(column)) return sql`${ref} = ${mysql.comparable(column, value)}`;
    // Most collations take different letters for the same; the second comparison does not.
    return sql`(${ref} = ${value} and ${exactly(ref)} = cast(${value} as binary))`;
  },
  // Two collations cannot be compared, nor a number of 32 bits with one of 64 that is written alike.
  paired: (column, ref) => {
    const { type, native } = column;
    if (type.kind === 'text') return exactly(ref);
    if (type.kind === 'uuid') return asText(ref);
    if (native.keeps === 'single') return sql`${asText(ref)} + 0e0`;
    return mysql.ordered(column, ref);
  },
  contains: (_column, ref, value) =>
    sql`lower(convert(${ref} using utf8mb4)) collate utf8mb4_bin like ${likePattern(value)} collate utf8mb4_bin escape '!'`,
  among: (column, ref, values) => {
    if (values.length === 0) return sql`1 = 0`;
    if (!isLettered(column))
      return sql`${ref} in (${sql.join(values.map((value) => mysql.comparable(column, value)))})`;
    const exact = values.map((value) => sql`cast(${value} as binary)`);
    return sql`(${ref} in (${sql.join(values)}) and ${exactly(ref)} in (${sql.join(exact)}))`;
  },
  figures: exactFigures(
    () => mysql,
    ({ type }, ref) => (type.kind === 'real' ? sql`sum(${ref} + 0e0)` : asText(sql`sum(${ref})`)),
  ),
  orderBy: (expression, descending, nullable) => {
    const order = descending ? sql`${expression} desc` : expression;
    return nullable ? sql`${expression} is null, ${order}` : order;
  },
  lock: sql` for update`,
  isolation: mysqlIsolation,
  steady: 'serializable',
  inserting: {
    parameters: 65_535,
    placeholder: () => '?',
    takesDefault: true,
    nothing: '() values ()',
    // Rows that are listed get numbers that follow each other.
    tells: 'first',
    step: sql`select @@auto_increment_increment as step`,
  },
  facts: mysqlFacts,
  packs: null,
  failure: (error) => {
    const { code = '', errno = 0, sqlState, sqlMessage, message = '' } = error as MysqlError;
    const reason = REASONS[errno];
    const text = sqlMessage ?? message;
    return {
      ...failureOf(error, { state: code, errno, standard: sqlState }, passingOf(errno, code)),
      // What a trigger raises names whatever its author likes.
      constraint: reason === undefined || sqlState === '45000' ? null : constraintIn(reason, text),
      violation: reason === undefined ? null : { reason, columns: columnsIn(reason, text) },
      isAboutValue: ABOUT_VALUE.includes(errno),
    };
  },
};
