import { expect } from 'chai';
import {
  bool,
  count,
  decimal,
  entity,
  equals,
  integer,
  json,
  list,
  loadPlan,
  model,
  not,
  oneOf,
  oneOfThese,
  shape,
  some,
  text,
  toMany,
  writer,
} from 'gribo';
import { sql } from 'kysely';
import { everyPlace, type Kept } from '../testing/every-place.js';

const KINDS = { bulk: 1, tanker: 2, tug: 7 } as const;
type Kind = keyof typeof KINDS;
const kindOf = (code: number): Kind =>
  (Object.keys(KINDS) as Kind[]).find((kind) => KINDS[kind] === code) ??
  (() => {
    throw new Error(`secret ${code}`);
  })();

/** Truths as letters, money in cents, choices as numbers, a list in one text. */
const db = model(
  {
    hull: entity('hull', {
      id: integer().key(),
      other: integer().nullable(),
      active: bool().coded({
        as: text({ max: 1 }),
        read: (said) => said === 'Y',
        write: (value) => (value ? 'Y' : 'N'),
      }),
      dues: decimal(12, 2).coded({
        as: integer(),
        read: (cents) => (cents / 100).toFixed(2),
        write: (value) => Math.round(Number(value) * 100),
      }),
      kind: oneOf('bulk', 'tanker', 'tug').coded({
        as: integer(),
        read: kindOf,
        write: (kind) => KINDS[kind],
      }),
      tags: json<readonly string[]>()
        .nullable()
        .coded({
          as: text(),
          read: (said) => said.split(';').filter((tag) => tag !== ''),
          write: (tags) => tags.join(';'),
        }),
    }),
  },
  { hull: { below: toMany('hull', 'other') } },
);

const Hull = shape(db.hull, ({ id, active, dues, kind, tags }) => ({ id, active, dues, kind, tags }));
const Chosen = shape(db.hull, (h) => ({
  id: h.id,
  idle: count(some(h.below, { where: (b) => [not(equals(b.active, true))] })),
  tugs: count(some(h.below, { where: (b) => [oneOfThese(b.kind, ['tug', 'bulk'])] })),
  dear: count(some(h.below, { where: (b) => [equals(b.dues, '12.50')] })),
}));

const ROWS = [
  { id: 1, other: null, active: true, dues: '0.00', kind: 'bulk', tags: null },
  { id: 2, other: 1, active: false, dues: '12.50', kind: 'tug', tags: ['a', 'b'] },
  { id: 3, other: 1, active: true, dues: '12.50', kind: 'tanker', tags: [] },
];

const KEPT: Kept = {
  model: db,
  tables: () => ({
    hull: `id integer primary key, other integer, active char(1) not null, dues integer not null, kind integer not null,
      tags varchar(40)`,
  }),
  rows: { hull: ROWS },
};

everyPlace('stored forms', KEPT, (place) => {
  it('are what the database has, and nobody else sees them', async () => {
    const {
      kysely,
      stores: [store],
    } = place();
    const rows = (await store.list(loadPlan(list(Hull)))) as never;
    expect(writer(list(Hull)).object(rows)).to.deep.equal(ROWS.map(({ other: _other, ...row }) => row));
    const [first] = writer(list(Chosen)).object((await store.list(loadPlan(list(Chosen)))) as never);
    expect(first).to.deep.equal({ id: 1, idle: 1, tugs: 1, dear: 2 });
    await store.amend('hull', [2], { active: true, dues: '7.25' });
    if (kysely !== null) {
      const kept = await sql`select active, dues, kind, tags from hull order by id`.execute(kysely);
      expect(kept.rows.map((row) => Object.values(row as object).join())).to.deep.equal([
        'Y,0,1,',
        'Y,725,7,a;b',
        'Y,1250,2,',
      ]);
      await sql`update hull set kind = 5 where id = 3`.execute(kysely);
      const failed = await store.list(loadPlan(list(Hull))).then(
        () => ({ code: '', message: '', cause: null }),
        (error: { code: string; message: string; cause: unknown }) => error,
      );
      expect(failed.code).to.equal('ROW_FUNCTION');
      expect(JSON.stringify([failed.message, String(failed.cause)])).to.not.contain('secret');
      await sql`update hull set kind = 2 where id = 3`.execute(kysely);
      const unwritten = await store.amend('hull', [3], { tags: { join: null } as never }).then(
        () => ({ code: '', message: '' }),
        (error: { code: string; message: string }) => error,
      );
      expect(unwritten.code).to.equal('ROW_FUNCTION');
    }
    await store.amend('hull', [2], { active: false, dues: '12.50' });
  });
});

describe('what is asked of stored forms', () => {
  const message = (make: () => unknown): string => {
    try {
      make();
      return '';
    } catch (error) {
      return (error as Error).message;
    }
  };

  it('is no order, in words that say why', () => {
    const sorted = () => shape(db.hull, (h) => ({ below: Hull(some(h.below, { sort: ['dues'] })) }));
    expect(message(sorted)).to.contain('it is stored in a form of its own, which has another order');
    const twins = () =>
      shape(db.hull, (h) => ({ n: count(some(h.below, { where: (b) => [equals(b.dues, b.dues)] })) }));
    expect(message(twins)).to.contain(
      'equals compares two columns, and one of them is stored in a form of its own',
    );
  });
});
