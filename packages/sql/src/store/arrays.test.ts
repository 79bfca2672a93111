import { expect } from 'chai';
import {
  amending,
  api,
  array,
  bigint,
  bool,
  collection,
  date,
  decimal,
  entity,
  input,
  integer,
  list,
  model,
  oneOf,
  real,
  shape,
  text,
  time,
  uuid,
} from 'gribo';
import { sql } from 'kysely';
import { keepingLog } from '../../../http/src/testing/ask.js';
import { dialectOf } from '../dialects/dialects.js';
import { asking, everyPlace, type Kept } from '../testing/every-place.js';

const db = model(
  {
    tally: entity('tally', {
      id: integer().key(),
      words: array(text({ max: 9 }), { max: 8 }),
      counts: array(integer({ min: 0 })),
      wholes: array(bigint()),
      reals: array(real()),
      sums: array(decimal(12, 2)),
      marks: array(bool()),
      days: array(date()),
      clocks: array(time()),
      ids: array(uuid()),
      states: array(oneOf('HW', "it's", 'a"b\\c')),
      maybe: array(text()).nullable(),
    }),
  },
  {},
);

const KINDS = [
  'words',
  'counts',
  'wholes',
  'reals',
  'sums',
  'marks',
  'days',
  'clocks',
  'ids',
  'states',
  'maybe',
] as const;
const NAMES = ['id', ...KINDS] as const;

/** The members of a row that are named. */
const named = <R extends object, N extends keyof R>(row: R, names: readonly N[]): Pick<R, N> =>
  Object.fromEntries(names.map((name) => [name, row[name]])) as Pick<R, N>;

const TallyIn = input(db.tally, (row) => named(row, NAMES), { name: 'TallyIn' });
const Row = shape(db.tally, (row) => named(row, NAMES), { name: 'Row' });

const office = api({
  title: 'Tallies',
  version: '1.0.0',
  endpoints: {
    tallies: collection('/tallies', db.tally, {
      list: list(Row),
      read: Row,
      create: { takes: TallyIn, returns: Row },
      amend: { takes: amending(TallyIn, ({ words, maybe }) => ({ words, maybe })), returns: Row },
    }),
  },
});

/** How PostgreSQL keeps them in arrays of its own. */
const ARRAYS: Readonly<Record<(typeof KINDS)[number], string>> = {
  words: 'varchar(9)[]',
  counts: 'integer[]',
  wholes: 'bigint[]',
  reals: 'float8[]',
  sums: 'numeric(12, 2)[]',
  marks: 'boolean[]',
  days: 'date[]',
  clocks: 'time[]',
  ids: 'uuid[]',
  states: 'state[]',
  maybe: 'text[]',
};

type Types = Readonly<Record<string, (name: (typeof KINDS)[number]) => string>>;

/** Where each database keeps them by itself. */
const OWN: Types = { postgres: (name) => ARRAYS[name], mysql: () => 'json', sqlite: () => 'json' };

/** Where each database keeps the text that JSON makes of them. */
const AS_TEXT: Types = { postgres: () => 'jsonb', mysql: () => 'longtext', sqlite: () => 'text' };

const BODY = {
  id: 1,
  words: ['plain', 'a,b', '"q"', '\\', '{}', '', 'NULL', 'é 潮'],
  counts: [3, 0, 3],
  wholes: ['9007199254740993', '-1'],
  reals: [0.1, -1.5],
  sums: ['10.50', '-0.01'],
  marks: [true, false],
  days: ['2026-03-01'],
  clocks: ['06:30:00', '06:30:00.25'],
  ids: ['08fd833e-eca9-4202-9c78-bbb8121c8ca2'],
  states: ["it's", 'HW', 'a"b\\c'],
  maybe: null,
};

const EMPTY = { ...Object.fromEntries(KINDS.map((name) => [name, []])), id: 2 };

const kept = (types: Types): Kept => ({
  model: db,
  prepare: async (kysely) => {
    if (dialectOf(kysely).name !== 'postgres') return;
    await sql.raw('drop type if exists state').execute(kysely);
    await sql.raw(`create type state as enum ('HW', 'it''s', 'a"b\\c')`).execute(kysely);
  },
  tables: (dialect) => {
    const columns = KINDS.map(
      (name) => `${name} ${types[dialect]?.(name)}${name === 'maybe' ? '' : ' not null'}`,
    );
    return { tally: ['id integer primary key', ...columns].join(', ') };
  },
  rows: {},
});

for (const [where, types] of Object.entries({ 'columns of their own': OWN, 'columns of JSON': AS_TEXT })) {
  everyPlace(`arrays in ${where}`, kept(types), (place) => {
    it('come back as they were sent, whatever is in them', async () => {
      for (const store of place().stores) {
        const ask = asking(office, store);
        expect(await ask('POST', '/tallies', BODY)).to.deep.equal([201, BODY]);
        expect(await ask('POST', '/tallies', EMPTY)).to.deep.equal([201, EMPTY]);
        expect(await ask('GET', '/tallies')).to.deep.equal([200, [BODY, EMPTY]]);
        const change = { words: ['new'], maybe: ['x', 'y'] };
        expect(await ask('PATCH', '/tallies/1', change)).to.deep.equal([200, { ...BODY, ...change }]);
        const wrong = { ...BODY, id: 3, words: ['fine', 7, 'much too long'], counts: [1, -1], marks: 'x' };
        const [status, problem] = await ask('POST', '/tallies', wrong);
        expect(status).to.equal(422);
        expect(
          problem.errors.map(({ pointer, code }: Record<string, string>) => `${pointer} ${code}`),
        ).to.deep.equal(['/words/1 type', '/counts/1 range', '/marks type']);
        const [, many] = await ask('POST', '/tallies', { ...BODY, id: 3, words: Array(9).fill('x') });
        expect(many.errors[0].message).to.equal(
          'Expected an array with a number of values of 8 or less, got an array.',
        );
        for (const id of [1, 2]) await store.remove('tally', [id]);
      }
    });

    it('with null in them are no values, and nothing is made of it', async () => {
      const { kysely, stores } = place();
      for (const store of stores) {
        const { told, log } = keepingLog();
        const ask = asking(office, store, log);
        await ask('POST', '/tallies', { ...EMPTY, sums: ['1.5'] });
        const [, [row]] = await ask('GET', '/tallies');
        expect(row.sums).to.deep.equal(['1.50']);
        if (kysely === null) continue;
        const isArray = types === OWN && dialectOf(kysely).name === 'postgres';
        const none = isArray ? sql`array[1, null]` : sql`${'[1,null]'}`;
        await sql`update tally set counts = ${none}`.execute(kysely);
        const [status] = await ask('GET', '/tallies');
        expect(status).to.equal(500);
        expect(JSON.stringify(told)).to.contain('counts');
        await store.remove('tally', [2]);
      }
    });
  });
}
