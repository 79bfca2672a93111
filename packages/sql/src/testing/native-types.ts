import {
  type AnyColumn,
  bigint,
  bool,
  bytes,
  date,
  decimal,
  integer,
  oneOf,
  real,
  text,
  time,
  timestamp,
  uuid,
} from 'gribo';
import type { ColumnKind } from 'gribo/kit';

/** A kind of column, with the types that databases keep it in. */
interface Kind {
  readonly column: () => AnyColumn;
  /** Values that are told apart, some of them twice, in no order. */
  readonly values: readonly unknown[];
  /** The types that databases keep it in. */
  readonly types: Readonly<Record<string, readonly string[]>>;
}

const CHOICES = ['sailed', 'announced', 'Berthed', "at's anchor", 'moored'] as const;

const WORDS = [
  'b',
  'a',
  'B',
  'A',
  'ä',
  'Ä',
  'z',
  'Zander',
  'zander',
  '',
  'a b',
  'ab',
  'a-b',
  'é',
  'e',
  'ß',
  'ss',
  'b',
  '1',
  '10',
  '2',
];

/** Not in every character set. */
const FAR = ['潮', '\u{1f6a2}', '\u{ff21}', 'İ'];

export const KINDS: Readonly<Partial<Record<ColumnKind, Kind>>> = {
  text: {
    column: () => text(),
    values: [...WORDS, ...FAR],
    types: {
      postgres: [
        'text',
        'varchar(40)',
        'text collate "C"',
        'citext',
        'text collate loose',
        'text collate german',
      ],
      mysql: [
        'varchar(40)',
        'text',
        'varchar(40) collate utf8mb4_general_ci',
        'varchar(40) collate utf8mb4_bin',
        'varchar(40) collate utf8mb4_nopad_bin',
        'varchar(40) collate utf8mb4_german2_ci',
      ],
      sqlite: ['text', 'varchar(40)', 'text collate nocase', 'text collate rtrim'],
    },
  },
  integer: {
    column: () => integer(),
    values: [3, -2, 0, 100, 3, 25],
    types: {
      postgres: ['smallint', 'integer', 'bigint', 'wholes'],
      mysql: ['tinyint', 'smallint', 'mediumint', 'integer', 'bigint'],
      sqlite: ['integer', 'bigint'],
    },
  },
  bigint: {
    column: () => bigint(),
    values: [3n, 9_007_199_254_740_993n, 9_007_199_254_740_992n, 0n, 9_007_199_254_740_993n],
    types: { postgres: ['bigint'], mysql: ['bigint', 'bigint unsigned'], sqlite: ['bigint', 'integer'] },
  },
  real: {
    column: () => real(),
    values: [0.1, 0.2, 0.3, 1.1, -1.1, 16_777_216, 3.1875, 0, 1e-5, 0.1, 123.456],
    types: { postgres: ['real', 'double precision'], mysql: ['float', 'double'], sqlite: ['real', 'double'] },
  },
  decimal: {
    column: () => decimal(20, 4),
    values: [
      '0.0000',
      '-1.5000',
      '1.5000',
      '-1.4999',
      '10.0000',
      '9.0000',
      '1234567890123456.7891',
      '1234567890123456.7890',
      '-1234567890123456.7891',
      '-1234567890123456.7890',
      '0.0001',
      '1.5000',
    ],
    types: { postgres: ['numeric(20, 4)'], mysql: ['decimal(20, 4)'], sqlite: ['text', 'varchar(30)'] },
  },
  bool: {
    column: () => bool(),
    values: [true, false, true],
    types: { postgres: ['boolean'], mysql: ['boolean'], sqlite: ['boolean', 'integer'] },
  },
  date: {
    column: () => date(),
    values: ['2026-03-01', '1969-07-20', '2026-02-28', '2026-03-01'],
    types: { postgres: ['date'], mysql: ['date'], sqlite: ['date', 'text'] },
  },
  time: {
    column: () => time(),
    values: ['06:30:00', '06:30:00.25', '06:30:00.025', '23:59:59', '00:00:00', '06:30:00'],
    types: { postgres: ['time', 'time(3)'], mysql: ['time(3)', 'time(6)'], sqlite: ['time', 'text'] },
  },
  timestamp: {
    column: () => timestamp(),
    values: [
      '2026-03-01T06:30:00.000Z',
      '2026-03-01T06:30:00.001Z',
      '1999-12-31T23:59:59.999Z',
      '2026-03-01T06:30:00.000Z',
    ].map((moment) => new Date(moment)),
    types: {
      postgres: ['timestamptz', 'timestamp'],
      mysql: ['datetime(3)', 'datetime(6)'],
      sqlite: ['timestamp', 'text'],
    },
  },
  uuid: {
    column: () => uuid(),
    values: [
      '08fd833e-eca9-4202-9c78-bbb8121c8ca2',
      '01fd833e-0ca9-1202-8c78-bbb8121c8ca2',
      'f8fd833e-eca9-7202-9c78-abb8121c8ca2',
      '08fd833e-eca9-4202-9c78-bbb8121c8ca1',
      '018fd833-eca9-7202-9c78-0bb8121c8ca2',
    ],
    types: { postgres: ['uuid', 'varchar(36)'], mysql: ['uuid', 'char(36)'], sqlite: ['uuid', 'text'] },
  },
  bytes: {
    column: () => bytes(),
    values: [[1, 2], [1], [255], [], [1, 2, 0], [128]].map((each) => Uint8Array.from(each)),
    types: { postgres: ['bytea'], mysql: ['varbinary(20)', 'blob'], sqlite: ['blob'] },
  },
  oneOf: {
    column: () => oneOf(...CHOICES),
    values: ['moored', 'sailed', 'Berthed', 'announced', "at's anchor", 'sailed'],
    types: {
      postgres: ['call_status', 'other_status', 'text'],
      mysql: [
        `enum(${CHOICES.map((choice) => `'${choice.replace("'", "''")}'`).join(', ')})`,
        "enum('announced', 'at''s anchor', 'Berthed', 'moored', 'sailed', 'else')",
        'varchar(20)',
      ],
      sqlite: ['text'],
    },
  },
};

/** Types that the columns need. */
export const BEFORE: Readonly<Record<string, readonly string[]>> = {
  postgres: [
    'drop table if exists kept',
    'drop type if exists call_status',
    'drop type if exists other_status',
    `create type call_status as enum (${CHOICES.map((choice) => `'${choice.replace("'", "''")}'`).join(', ')})`,
    "create type other_status as enum ('announced', 'at''s anchor', 'Berthed', 'moored', 'sailed', 'else')",
    'drop domain if exists wholes',
    'create domain wholes as integer check (value < 1000)',
    'drop collation if exists loose',
    "create collation loose (provider = icu, locale = 'und-u-ks-level1', deterministic = false)",
    'drop collation if exists german',
    "create collation german (provider = icu, locale = 'de')",
  ],
};
