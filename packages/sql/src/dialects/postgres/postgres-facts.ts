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
  jsonWithout,
  moments,
  singles,
  texts,
  unknown,
  uuids,
} from '../../kinds/capacity.js';
import type { ColumnFacts, Native } from '../dialect.js';
import { asItsKind } from '../native.js';

/** The years before the first, which the calendar of RFC 3339 calls 0000, are written otherwise here. */
const FIRST_DAY = '0001-01-01';

/** The null character is in no text; in JSON text it is an escape, behind an even number of backslashes. */
const NULL_CHARACTER = /\0/;
const ESCAPED_NULL = /(?<!\\)(?:\\\\)*\\u0000/;

/** The characters of encodings that are not Unicode's, as far as they are told apart here. */
const WITHOUT: Readonly<Record<string, RegExp>> = {
  // biome-ignore lint/suspicious/noControlCharactersInRegex: these are the characters meant
  LATIN1: /[^\u0000-\u00ff]/,
};

const quoted = (table: string): string =>
  table
    .split('.')
    .map((part) => `"${part.replaceAll('"', '""')}"`)
    .join('.');

/** A modifier of a type is four more than its length. */
const lengthOf = (modifier: number): number | null => (modifier < 4 ? null : modifier - 4);

const textOf = (said: CatalogRow, characters: number | null): Capacity => {
  const encoding = String(said['encoding']);
  if (encoding === 'UTF8' || encoding === 'SQL_ASCII') return texts({ characters, stored: NULL_CHARACTER });
  const without = WITHOUT[encoding];
  return without === undefined ? unknown : texts({ characters, without, stored: NULL_CHARACTER });
};

const numericOf = (modifier: number): Capacity => {
  const packed = lengthOf(modifier);
  // The precision is in the upper half, the scale in the lower eleven bits.
  return packed === null ? everything : decimals((packed >> 16) & 0xffff, packed & 0x7ff);
};

const capacityOf = (said: CatalogRow): Capacity => {
  const modifier = orNull(said['modifier']) ?? -1;
  const labels = said['labels'] as readonly string[] | null;
  if (labels !== null) return choices(labels);
  switch (said['type']) {
    case 'int2':
      return integers(16);
    case 'int4':
      return integers(32);
    case 'int8':
      return integers(64);
    case 'float4':
      return singles;
    case 'numeric':
      return numericOf(modifier);
    case 'text':
    case 'citext':
      return textOf(said, null);
    case 'varchar':
    case 'bpchar':
      return textOf(said, lengthOf(modifier));
    case 'uuid':
      return uuids;
    case 'date':
      return daysFrom(FIRST_DAY);
    case 'time':
      return clocks(modifier < 0 ? 6 : modifier);
    case 'timestamp':
    case 'timestamptz':
      return moments(`${FIRST_DAY}T00:00:00Z`);
    case 'jsonb':
      return jsonWithout(ESCAPED_NULL);
    case 'bytea':
      return byteStrings(null);
    case 'float8':
    case 'bool':
    case 'json':
      return everything;
    default:
      return unknown;
  }
};

/** Locales in which texts are in the order of their code points, whatever provides them. */
const BY_CODE_POINTS = /^(?:(?:C|POSIX)(?:\.UTF-?8)?|ucs_basic|pg_c_utf8|pg_unicode_fast)$/i;

const TEXTS = ['text', 'varchar', 'bpchar', 'citext', 'name', 'char'];

const textNative = (said: CatalogRow): Native =>
  TEXTS.includes(String(said['type']))
    ? lettersNative(said)
    : { ...asItsKind, isInOrder: false, isSteady: false, keeps: 'other' };

const lettersNative = (said: CatalogRow): Native => ({
  ...asItsKind,
  isLoose: said['type'] === 'citext' || said['deterministic'] === false,
  isSteady: said['visible'] !== false,
  isInOrder: said['type'] !== 'citext' && BY_CODE_POINTS.test(String(said['locale'])),
});

/** Whether its labels are in the order in which the model has them. */
const choicesNative = (choices: readonly string[], labels: readonly string[] | null): Native => {
  const places = choices.map((choice) => labels?.indexOf(choice) ?? -1);
  const isInOrder = places.every((place, i) => place > (places[i - 1] ?? -1));
  return { ...asItsKind, isInOrder };
};

export const postgresFacts: ColumnFacts = {
  // Not every release has every column of these catalogues.
  columns: (tables) => sql<CatalogRow>`
    select t.name as "table", a.attname as "column", b.typname as "type", b.typcategory = 'A' as "array",
      case when y.typtype = 'd' then y.typtypmod else a.atttypmod end as "modifier",
      (select json_agg(e.enumlabel order by e.enumsortorder) from pg_enum e where e.enumtypid = b.oid) as "labels",
      pg_type_is_visible(b.oid) as "visible", current_setting('server_encoding') as "encoding", current_setting('DateStyle') as "dates",
      (to_jsonb(l) ->> 'collisdeterministic')::boolean as "deterministic",
      case when l.collname = 'default' and d.datlocprovider = 'i' then 'icu'
        when l.collname = 'default' then d.datcollate
        when l.collprovider in ('c', 'b') then coalesce(l.collcollate, l.collname) else 'icu' end as "locale"
    from unnest(${[...tables]}::text[], ${tables.map(quoted)}::text[]) as t(name, quoted)
    join pg_attribute a on a.attrelid = to_regclass(t.quoted) and a.attnum > 0 and not a.attisdropped
    join pg_type y on y.oid = a.atttypid
    join pg_type b on b.oid = case when y.typtype = 'd' then y.typbasetype else y.oid end
    left join pg_collation l on l.oid = a.attcollation
    cross join (select datcollate, to_jsonb(p) ->> 'datlocprovider' as datlocprovider from pg_database p
      where datname = current_database()) d`,
  capacity: (_type, said) => (said === null ? unknown : capacityOf(said)),
  native: (type, said) => {
    if (said === null) return { ...asItsKind, isInOrder: type.kind !== 'text' && type.kind !== 'oneOf' };
    if (type.kind === 'oneOf') return choicesNative(type.choices, said['labels'] as readonly string[] | null);
    if (type.kind === 'real' && said['type'] === 'float4') return { ...asItsKind, keeps: 'single' };
    if (type.kind === 'array' && said['array'] === true) return { ...asItsKind, keeps: 'array' };
    if (type.kind === 'timestamp' && said['type'] === 'timestamp') return { ...asItsKind, keeps: 'zoneless' };
    if (type.kind === 'duration' && said['type'] !== 'interval') return { ...asItsKind, keeps: 'text' };
    return type.kind === 'text' ? textNative(said) : asItsKind;
  },
};
