import type { ColumnType } from 'gribo/kit';
import { sql } from 'kysely';
import { type CatalogRow, orNull } from '../../catalogue/catalogue-rows.js';
import {
  byteStrings,
  type Capacity,
  choices,
  clocks,
  daysFrom,
  decimals,
  everything,
  integers,
  moments,
  singles,
  texts,
  unknown,
  uuids,
  wholeNumbers,
} from '../../kinds/capacity.js';
import type { ColumnFacts, Native } from '../dialect.js';
import { asItsKind } from '../native.js';
import { labelsIn } from './labels-in.js';

const BITS: Readonly<Record<string, number>> = {
  tinyint: 8,
  smallint: 16,
  mediumint: 24,
  int: 32,
  bigint: 64,
};

/** Texts and bytes whose length is counted in bytes. */
const BYTES: Readonly<Record<string, number>> = {
  tinytext: 255,
  text: 65_535,
  mediumtext: 16_777_215,
  longtext: 4_294_967_295,
  tinyblob: 255,
  blob: 65_535,
  mediumblob: 16_777_215,
  longblob: 4_294_967_295,
};

/** The characters that a character set does not have; null: none. Sets that are not named here are not known. */
const WITHOUT: Readonly<Record<string, RegExp | null>> = {
  utf8mb4: null,
  utf8mb3: /[\u{10000}-\u{10ffff}]/u,
  utf8: /[\u{10000}-\u{10ffff}]/u,
  // It is Windows-1252, which has characters of its own in the place of most controls of the upper half.
  // biome-ignore lint/suspicious/noControlCharactersInRegex: these are the characters meant
  latin1: /[^\u0000-\u007f\u0081\u008d\u008f\u0090\u009d\u00a0-\u00ff€‚ƒ„…†‡ˆ‰Š‹ŒŽ‘’“”•–—˜™š›œžŸ]/,
  // biome-ignore lint/suspicious/noControlCharactersInRegex: these are the characters meant
  ascii: /[^\u0000-\u007f]/,
};

const textOf = (said: CatalogRow, limits: { characters?: number | null; bytes?: number }): Capacity => {
  const without = WITHOUT[String(said['charset'])];
  return without === undefined ? unknown : texts({ ...limits, without });
};

const capacityOf = (said: CatalogRow): Capacity => {
  const type = String(said['type']).toLowerCase();
  const whole = String(said['whole_type']);
  const length = orNull(said['length']);
  const bits = BITS[type];
  if (bits !== undefined) return integers(bits, /unsigned/i.test(whole));
  switch (type) {
    case 'year':
      return wholeNumbers(1901n, 2155n);
    case 'bit':
      return integers(orNull(said['precision']) ?? 1, true);
    case 'float':
      return singles;
    case 'decimal':
      return decimals(orNull(said['precision']) ?? 65, orNull(said['scale']) ?? 0);
    case 'char':
    case 'varchar':
      return textOf(said, { characters: length });
    case 'enum':
      return choices(labelsIn(whole) ?? []);
    case 'binary':
    case 'varbinary':
      return byteStrings(length);
    case 'date':
      return daysFrom('0001-01-01');
    case 'datetime':
      return moments('0001-01-01T00:00:00Z');
    case 'timestamp':
      // A day less on either side: it is kept in the time zone of the server.
      return moments('1970-01-02T00:00:00Z', '2038-01-18T00:00:00Z');
    case 'uuid':
      return uuids;
    case 'double':
    case 'json':
      return everything;
    case 'time':
      return clocks(orNull(said['places']) ?? 0);
    default: {
      const bytes = BYTES[type];
      if (bytes === undefined) return unknown;
      return type.endsWith('text') ? textOf(said, { bytes }) : byteStrings(bytes);
    }
  }
};

/** Collations that tell all texts apart, and have them in the order of their code points. */
const BY_CODE_POINTS = /^(?:utf8mb4_nopad_bin|utf8mb3_nopad_bin|utf8mb4_0900_bin)$/;

/** Keys that it keeps as UUIDs are in an order of its own. */
const isInOrder = ({ kind }: ColumnType, said: CatalogRow | null): boolean => {
  if (kind === 'oneOf') return false;
  if (kind === 'uuid') return String(said?.['type']).toLowerCase() !== 'uuid';
  return kind !== 'text' || BY_CODE_POINTS.test(String(said?.['collation']));
};

const keeping = ({ kind }: ColumnType, said: string): Native['keeps'] => {
  if (said === 'bit') return 'bits';
  return kind === 'real' && said === 'float' ? 'single' : 'itself';
};

export const mysqlFacts: ColumnFacts = {
  columns: (tables) => sql<CatalogRow>`
    select case when table_schema = database() then table_name else concat(table_schema, '.', table_name) end as \`table\`,
      column_name as \`column\`, data_type as \`type\`, column_type as whole_type, character_maximum_length as length,
      character_set_name as charset, collation_name as \`collation\`, numeric_precision as \`precision\`, numeric_scale as scale,
      datetime_precision as places
    from information_schema.columns
    where (table_schema = database() and table_name in (${sql.join(tables)}))
      or concat(table_schema, '.', table_name) in (${sql.join(tables)})`,
  capacity: (_type, said) => (said === null ? unknown : capacityOf(said)),
  native: (type, said) => ({
    ...asItsKind,
    isInOrder: isInOrder(type, said),
    keeps: keeping(type, String(said?.['type']).toLowerCase()),
  }),
};
