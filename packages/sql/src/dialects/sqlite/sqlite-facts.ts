import type { ColumnKind } from 'gribo/kit';
import { sql } from 'kysely';
import type { CatalogRow } from '../../catalogue/catalogue-rows.js';
import { type Capacity, everything, integers } from '../../kinds/capacity.js';
import type { ColumnFacts, Native } from '../dialect.js';
import { asItsKind } from '../native.js';
import { DIGITS_OF_DOUBLES, keepsText } from './decimals.js';

/** The digits that count of a decimal: none in front of the first that is not zero, none of the zeros at its end. */
const digitsOf = (decimal: unknown): number =>
  String(decimal)
    .replace(/^-/, '')
    .replace('.', '')
    .replace(/^0+|0+$/g, '').length;

/** Decimals that are kept as floating-point numbers. */
const doubles: Capacity = {
  compared: () => 'held',
  stores: (value) => digitsOf(value) <= DIGITS_OF_DOUBLES,
};

/** A value may be of any type, whatever its column says: where that says nothing, the text of the value is known. */
const keeping = (kind: ColumnKind, said: unknown): Native['keeps'] => {
  if (kind === 'decimal' && keepsText(said)) return 'text';
  const isLettered = kind === 'text' || kind === 'oneOf';
  return isLettered && !/char|clob|text/i.test(String(said ?? '')) ? 'other' : 'itself';
};

/** It keeps what it is given, but for whole numbers of more than 64 bits and decimals of many digits. */
export const sqliteFacts: ColumnFacts = {
  columns: (tables) => {
    const named = tables.map((table) => {
      const point = table.indexOf('.');
      return [table, table.slice(point + 1), point < 0 ? 'main' : table.slice(0, point)];
    });
    return sql<CatalogRow>`
      select json_extract(t.value, '$[0]') as "table", c.name as "column", c.type as "type"
      from json_each(${JSON.stringify(named)}) t
      join pragma_table_xinfo(json_extract(t.value, '$[1]'), json_extract(t.value, '$[2]')) c`;
  },
  capacity: ({ kind }, said) => {
    if (kind === 'decimal') return keepsText(said?.['type']) ? everything : doubles;
    return kind === 'integer' || kind === 'bigint' ? integers(64) : everything;
  },
  native: ({ kind }, said) => ({
    ...asItsKind,
    isInOrder: kind !== 'oneOf' && kind !== 'text',
    keeps: keeping(kind, said === null ? 'text' : said['type']),
  }),
};
