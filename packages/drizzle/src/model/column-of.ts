import { type Column as DrizzleColumn, is, SQL } from 'drizzle-orm';
import {
  array,
  bigint,
  bool,
  bytes,
  type Column,
  date,
  decimal,
  duration,
  GriboError,
  integer,
  json,
  oneOf,
  real,
  text,
  time,
  timestamp,
  uuid,
} from 'gribo';
import type { AnyColumn } from './column-types.js';
import { type Kind, kindOf } from './kinds.js';

/** A number that some classes of columns have, such as a length; undefined where this one has none. */
const numberOf = (column: DrizzleColumn, name: string): number | undefined => {
  const value = (column as unknown as Readonly<Record<string, unknown>>)[name];
  return typeof value === 'number' ? value : undefined;
};

const withMost = (max: number | undefined): { max?: number } => (max === undefined ? {} : { max });

const texts = (column: DrizzleColumn): AnyColumn => {
  const [first, ...others] = column.enumValues ?? [];
  if (first === undefined) return text(withMost(numberOf(column, 'length')));
  return oneOf(first, ...others);
};

/** Decimals that do not say how many digits they have get plenty, but for MySQL's, which then have no places. */
const decimals = (column: DrizzleColumn): AnyColumn => {
  const precision = numberOf(column, 'precision');
  if (precision !== undefined) return decimal(precision, numberOf(column, 'scale') ?? 0);
  return column.columnType.startsWith('MySql') ? decimal(10, 0) : decimal(38, 10);
};

/** Moments that SQLite keeps as a number. */
const moments = (column: DrizzleColumn): AnyColumn => {
  const unit = (column as { mode?: unknown }).mode === 'timestamp_ms' ? 1 : 1000;
  return timestamp().coded({
    as: integer(),
    read: (stored) => new Date(stored * unit),
    write: (value) => Math.floor(value.getTime() / unit),
  });
};

const UTF8 = new TextEncoder();
const fromUtf8 = (stored: Uint8Array): string => new TextDecoder().decode(stored);

/** What is made for each kind; an array takes what it holds. */
const MAKERS: Readonly<Record<Exclude<Kind, 'array'>, (column: DrizzleColumn) => AnyColumn>> = {
  integer: () => integer(),
  bigint: () => bigint(),
  real: () => real(),
  decimal: decimals,
  bool: () => bool(),
  date: () => date(),
  time: () => time(),
  duration: () => duration(),
  timestamp: () => timestamp(),
  uuid: () => uuid(),
  text: texts,
  json: () => json<unknown>(),
  bytes: (column) => bytes(withMost(numberOf(column, 'length'))),
  secondsOrMilliseconds: moments,
  jsonInBytes: () =>
    json<unknown>().coded({
      as: bytes(),
      read: (stored): unknown => JSON.parse(fromUtf8(stored)),
      write: (value) => UTF8.encode(JSON.stringify(value)),
    }),
  bigintInBytes: () =>
    bigint().coded({
      as: bytes(),
      read: (stored) => BigInt(fromUtf8(stored)),
      write: (value) => UTF8.encode(String(value)),
    }),
};

/** The column of a kind, without what its modifiers say; null where there is none. */
const plain = (column: DrizzleColumn): AnyColumn | null => {
  const kind = kindOf(column.columnType);
  if (kind === null) return null;
  if (kind !== 'array') return MAKERS[kind](column);
  const of = plain((column as unknown as { baseColumn: DrizzleColumn }).baseColumn);
  if (of === null) return null;
  // Nothing is said of it yet but what it is.
  const made = array(of as Column<unknown, unknown>);
  // What no array holds is told in the core's words, where it stays in the model.
  return made.settings.wrong === null ? made : null;
};

const isMadeThere = (column: DrizzleColumn): boolean =>
  column.generated !== undefined ||
  column.generatedIdentity !== undefined ||
  column.columnType.includes('Serial') ||
  (column as { autoIncrement?: unknown }).autoIncrement === true ||
  (column.primary && column.hasDefault && column.defaultFn === undefined);

/** A value as rows hold it, of one that a function of Drizzle's made. */
const held = (column: DrizzleColumn, value: unknown): unknown => {
  if (is(value, SQL))
    throw new GriboError(
      'MISUSE',
      column.name,
      `${column.name}: a function of Drizzle's gave SQL, which only the database can run: use .default(sql…) instead`,
    );
  const kind = kindOf(column.columnType);
  if (kind === 'timestamp' && typeof value === 'string') return new Date(value);
  if (kind === 'date' && value instanceof Date) return value.toISOString().slice(0, 10);
  return value;
};

/** A column with who sets it: the database, or a function of Drizzle's. */
const withMaker = (made: AnyColumn, column: DrizzleColumn): AnyColumn => {
  const { defaultFn, onUpdateFn } = column;
  if (isMadeThere(column)) return made.generated();
  if (onUpdateFn !== undefined) return made.stamped('change', () => held(column, onUpdateFn()));
  if (defaultFn !== undefined) return made.stamped('create', () => held(column, defaultFn()));
  return column.hasDefault ? made.defaulted() : made;
};

/** What a table says of one of its columns. */
export interface ColumnFacts {
  readonly stored: string;
  readonly isKey: boolean;
  readonly isUnique: boolean;
}

/** The column of a model for one of Drizzle's; null where there is none. */
export const columnOf = (
  column: DrizzleColumn,
  { stored, isKey, isUnique }: ColumnFacts,
): AnyColumn | null => {
  let made = plain(column)?.stored(stored);
  if (made === undefined) return null;
  made = withMaker(made, column);
  if (!column.notNull && !isKey) made = made.nullable();
  if (isKey) made = made.key();
  return isUnique ? made.unique() : made;
};
