import { SqliteAdapter, sql } from 'kysely';
import type { Violation } from '../../errors/statement-error.js';
import { everything, integers } from '../../kinds/capacity.js';
import { formOf } from '../../kinds/kinds.js';
import type { SqlDialect } from '../dialect.js';
import { failureOf } from '../failure-of.js';
import { decodeValue, encodeValue } from '../forms.js';
import { openSqlite } from './open-sqlite.js';
import { readSqlite } from './read-sqlite.js';

interface SqliteError {
  readonly code?: string;
  readonly message?: string;
}

const REASONS: Readonly<Record<string, Violation['reason']>> = {
  SQLITE_CONSTRAINT_UNIQUE: 'duplicate',
  SQLITE_CONSTRAINT_PRIMARYKEY: 'duplicate',
  SQLITE_CONSTRAINT_ROWID: 'duplicate',
  SQLITE_CONSTRAINT_FOREIGNKEY: 'reference',
  SQLITE_CONSTRAINT_NOTNULL: 'missing',
  SQLITE_CONSTRAINT_CHECK: 'value',
  SQLITE_CONSTRAINT_DATATYPE: 'value',
};

/** `UNIQUE constraint failed: operator.name` names columns with their table. */
const columnsIn = (message: string): string[] => {
  const [, names = ''] = /constraint failed: (.*)$/.exec(message) ?? [];
  return names.split(', ').flatMap((name) => (name.includes('.') ? [name.slice(name.indexOf('.') + 1)] : []));
};

/** The database's own `2026-03-01 06:30:00` is UTC too. */
const moment = (value: unknown): Date => {
  const text = String(value).replace(' ', 'T');
  return new Date(/(?:Z|[+-]\d\d:?\d\d)$/i.test(text) ? text : `${text}Z`);
};

const stored = (value: Date): string => value.toISOString();

export const sqlite: SqlDialect = {
  name: 'sqlite',
  title: 'SQLite',
  speaks: (adapter) => adapter instanceof SqliteAdapter,
  opens: { sqlite: (_url, path) => openSqlite(path.replace(/^\/\/(?=\/)/, '')) },
  readSchema: readSqlite,
  isLoose: true,
  nests: false,
  noLimit: sql`\nlimit ${sql.lit(Number.MAX_SAFE_INTEGER)}`,
  selected: ({ type }, ref) => (formOf(type) === 'whole' ? sql`cast(${ref} as text)` : ref),
  decode: (type) => decodeValue(type, moment),
  encode: (type, value) => {
    if (value === null || value === undefined) return null;
    const form = formOf(type);
    if (form === 'bool') return value === true ? 1 : 0;
    // As text, a whole number would only be kept as one by a column of that affinity.
    return form === 'whole' ? BigInt(value as bigint) : encodeValue(type, value, stored);
  },
  ordered: ({ type }, ref) => (formOf(type) === 'decimal' ? sql`cast(${ref} as real)` : ref),
  comparable: (type, value) => {
    const encoded = sqlite.encode(type, value);
    return formOf(type) === 'decimal' ? sql`cast(${encoded} as real)` : sql`${encoded}`;
  },
  equals: (column, ref, value) =>
    sql`${sqlite.ordered(column, ref)} = ${sqlite.comparable(column.type, value)}`,
  same: (_column, one, other) => sql`${one} = ${other}`,
  // A pattern of `like` would end at a null character.
  contains: (ref, value) => sql`instr(lower(${ref}), ${value.toLowerCase()}) > 0`,
  among: ({ type }, ref, values) => {
    const texts = values.map((value) => {
      const encoded = sqlite.encode(type, value);
      return typeof encoded === 'bigint' ? String(encoded) : JSON.stringify(encoded);
    });
    // One parameter, however many values there are.
    const list = `[${texts.join()}]`;
    return formOf(type) === 'decimal'
      ? sql`cast(${ref} as real) in (select cast(value as real) from json_each(${list}))`
      : sql`${ref} in (select value from json_each(${list}))`;
  },
  orderBy: (expression, descending, nullable) => {
    const order = descending ? sql`${expression} desc` : expression;
    return nullable ? sql`${order} nulls last` : order;
  },
  lock: sql``,
  inserting: {
    parameters: 32_766,
    placeholder: () => '?',
    takesDefault: false,
    nothing: 'default values',
    // Its documentation promises no order of what is returned.
    tells: 'anyOrder',
    step: null,
  },
  // It keeps what it is given, but for whole numbers of more than 64 bits.
  capacities: {
    columns: null,
    of: ({ kind }) => (kind === 'integer' || kind === 'bigint' ? integers(64) : everything),
  },
  failure: (error) => {
    const { code = '', message = '' } = error as SqliteError;
    const reason = REASONS[code];
    const columns = columnsIn(message);
    // Its messages name tables and columns; what a trigger says, it says under a code of its own.
    const isPlain =
      code !== 'SQLITE_CONSTRAINT_TRIGGER' && (code !== 'SQLITE_CONSTRAINT' || columns.length > 0);
    return {
      ...failureOf(error, code, isPlain ? message : null),
      violation: reason === undefined ? null : { reason, columns },
      isAboutValue: code === 'SQLITE_MISMATCH',
    };
  },
};
