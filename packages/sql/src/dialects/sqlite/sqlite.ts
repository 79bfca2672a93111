import { SqliteAdapter, sql } from 'kysely';
import type { Passing, Violation } from '../../errors/statement-error.js';
import { formOf } from '../../kinds/kinds.js';
import type { Piece, SqlColumn, SqlDialect } from '../dialect.js';
import { failureOf } from '../failure-of.js';
import { exactFigures } from '../figures.js';
import { decodeValue, encodeValue } from '../forms.js';
import { ranked, rankOf } from '../ranked.js';
import { comparableDecimal, decimalText, digitsInOrder, gatheredFigures } from './decimals.js';
import { inLowerCase } from './lower-case.js';
import { openSqlite } from './open-sqlite.js';
import { readSqlite } from './read-sqlite.js';
import { sqliteFacts } from './sqlite-facts.js';

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

/** Somebody else is writing; or there is no room. */
const passingOf = (code: string): Passing | null => {
  if (/^SQLITE_(?:BUSY|LOCKED)/.test(code)) return 'again';
  return code === 'SQLITE_FULL' ? 'later' : null;
};

/** Under one code it says several things: which of them, by the SQLSTATE that others have for it. */
const standardOf = (message: string): string | undefined => {
  if (message.startsWith('no such table')) return '42P01';
  return message.startsWith('no such column') ? '42703' : undefined;
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

/** A text as it is, whatever its collation takes for the same; an index on the column itself still serves. */
const binary = (ref: Piece): Piece => sql`${ref} collate binary`;

/** A moment, whether we have written it or the database itself, whose own form has a space in it. */
const inOneForm = (ref: Piece): Piece => sql`strftime('%Y-%m-%dT%H:%M:%fZ', ${ref})`;

const asText = (ref: Piece): Piece => sql`cast(${ref} as text)`;

/** A column whose type says nothing of its values is read as text. */
const lettered = ({ native }: SqlColumn, ref: Piece): Piece => (native.keeps === 'other' ? asText(ref) : ref);

const isLettered = ({ type: { kind } }: SqlColumn): boolean => kind === 'text' || kind === 'oneOf';

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
  selected: (column, ref) => (formOf(column.type) === 'whole' ? asText(ref) : lettered(column, ref)),
  decode: (column) => {
    const decode = decodeValue(column, moment);
    const { type } = column;
    return type.kind === 'decimal' ? (value) => decode?.(decimalText(type, value)) : decode;
  },
  encode: ({ type }, value) => {
    if (value === null || value === undefined) return null;
    const form = formOf(type);
    if (form === 'bool') return value === true ? 1 : 0;
    // As text, a whole number would only be kept as one by a column of that affinity.
    return form === 'whole' ? BigInt(value as bigint) : encodeValue(type, value, stored);
  },
  ordered: (column, ref) => {
    const { type } = column;
    if (formOf(type) === 'decimal') return comparableDecimal(ref, column);
    if (formOf(type) === 'moment') return inOneForm(ref);
    if (type.kind === 'oneOf')
      return ranked(column, binary(lettered(column, ref)), (choice) => sql`${choice}`);
    return column.native.isInOrder ? ref : binary(lettered(column, ref));
  },
  comparable: (column, value) => {
    const { type } = column;
    if (type.kind === 'oneOf') return rankOf(column, value);
    const encoded = sql`${sqlite.encode(column, value)}`;
    return formOf(type) === 'decimal' ? comparableDecimal(encoded, column) : encoded;
  },
  // A day is written alike in every form, and comes first in it.
  since: (_column, ref, value) => {
    const said = stored(value);
    return sql`(${ref} >= ${said.slice(0, 10)} and ${inOneForm(ref)} >= ${said})`;
  },
  earlier: (_column, ref, value) => {
    const said = stored(value);
    return sql`(${ref} <= ${`${said.slice(0, 10)}~`} and ${inOneForm(ref)} < ${said})`;
  },
  equals: (column, ref, value) =>
    isLettered(column)
      ? sql`(${lettered(column, ref)} = ${value} and ${binary(lettered(column, ref))} = ${value})`
      : sql`${sqlite.ordered(column, ref)} = ${sqlite.comparable(column, value)}`,
  paired: (column, ref) => {
    if (column.type.kind === 'text') return binary(lettered(column, ref));
    return formOf(column.type) === 'decimal' ? digitsInOrder(ref, column) : sqlite.ordered(column, ref);
  },
  // A pattern of `like` would end at a null character.
  contains: (_column, ref, value) =>
    sql`instr(${inLowerCase(ref, value.toLowerCase())}, ${value.toLowerCase()}) > 0`,
  among: (column, ref, values) => {
    if (formOf(column.type) === 'bytes')
      return sql`${ref} in (${sql.join(values.map((value) => sqlite.encode(column, value)))})`;
    const texts = values.map((value) => {
      const encoded = sqlite.encode(column, value);
      return typeof encoded === 'bigint' ? String(encoded) : JSON.stringify(encoded);
    });
    // One parameter, however many values there are.
    const list = sql`json_each(${`[${texts.join()}]`})`;
    if (formOf(column.type) === 'decimal') {
      const compared = comparableDecimal(sql`value`, column);
      return sql`${comparableDecimal(ref, column)} in (select ${compared} from ${list})`;
    }
    return sql`${isLettered(column) ? binary(lettered(column, ref)) : ref} in (select value from ${list})`;
  },
  // It knows no decimals: their texts are summed and compared here.
  figures: (column, how) =>
    column.type.kind === 'decimal'
      ? gatheredFigures(column, how)
      : exactFigures(
          () => sqlite,
          ({ type }, ref) => (type.kind === 'real' ? sql`sum(${ref})` : asText(sql`sum(${ref})`)),
        )(column, how),
  orderBy: (expression, descending, nullable) => {
    const order = descending ? sql`${expression} desc` : expression;
    return nullable ? sql`${order} nulls last` : order;
  },
  lock: sql``,
  steady: null,
  inserting: {
    parameters: 32_766,
    placeholder: () => '?',
    takesDefault: false,
    nothing: 'default values',
    // Its documentation promises no order of what is returned.
    tells: 'anyOrder',
    step: null,
  },
  facts: sqliteFacts,
  packs: null,
  failure: (error) => {
    const { code = '', message = '' } = error as SqliteError;
    const reason = REASONS[code];
    const columns = columnsIn(message);
    return {
      ...failureOf(error, { state: code, standard: standardOf(message) }, passingOf(code)),
      violation: reason === undefined ? null : { reason, columns },
      isAboutValue: code === 'SQLITE_MISMATCH',
    };
  },
};
