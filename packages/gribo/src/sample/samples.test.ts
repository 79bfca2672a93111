import { expect } from 'chai';
import fc from 'fast-check';
import {
  bigint,
  bool,
  bytes,
  date,
  decimal,
  entity,
  input,
  integer,
  json,
  list,
  memoryStore,
  model,
  oneOf,
  reader,
  real,
  samples,
  shape,
  text,
  time,
  timestamp,
  toMany,
  toOne,
  uuid,
  writer,
} from '../index.js';
import { declarationError } from '../testing/engines.js';
import { fleet } from '../testing/fleet.js';
import { textForPattern } from './text-for-pattern.js';

const everyKind = model(
  {
    thing: entity('thing', {
      id: uuid().key(),
      short: text({ max: 3 }),
      long: text({ min: 200 }),
      code: text({ pattern: /^[A-Z]{2}-\d{3,4}(?:x|y)?$/ }).unique(),
      email: text({ max: 40 }),
      builtYear: integer({ min: 1850, max: 2100 }),
      low: integer({ max: -5 }),
      high: real({ min: 1e6 }),
      narrow: real({ min: 0.5, max: 0.6 }),
      big: bigint({ min: 10n ** 18n }),
      exact: bigint({ min: 7n, max: 7n }),
      price: decimal(6, 3),
      open: bool(),
      day: date(),
      clock: time(),
      at: timestamp(),
      extra: json<unknown>(),
      raw: bytes({ max: 4 }),
      kind: oneOf('a', 'b', 'c'),
    }),
  },
  {},
);

describe('samples', () => {
  it('are within every limit: what they hold can be taken back', () => {
    const { thing: rows = [] } = samples(everyKind, { rows: 40 });
    expect(rows).to.have.length(40);
    const Whole = shape(everyKind.thing, (t) => ({ ...t }) as { id: typeof t.id });
    const Take = input(everyKind.thing, (t) => ({ ...t }) as { id: typeof t.id });
    const read = reader(Take);
    for (const one of JSON.parse(writer(list(Whole)).json(rows)) as unknown[]) {
      const got = read.object(one);
      expect(got.ok ? [] : got.issues).to.deep.equal([]);
    }
    expect(new Set(rows.map((row) => (row as { kind: string }).kind)).size).to.equal(3);
    expect(new Set(rows.map((row) => (row as { code: string }).code)).size).to.equal(40);
  });

  it('fit each other, so that a store takes them', () => {
    for (const seed of [1, 2, 'three']) {
      const rows = samples(fleet, { seed, rows: { pilotage: 20 } });
      memoryStore(fleet, rows);
      expect(rows['pilotage']).to.have.length(20);
    }
  });

  it('are the same for the same seed, and leave the others as they were where a column is new', () => {
    expect(samples(fleet, { seed: 5 })).to.deep.equal(samples(fleet, { seed: 5 }));
    expect(samples(fleet, { seed: 5 })).not.to.deep.equal(samples(fleet, { seed: 6 }));
    const columns = { id: integer().key(), name: text(), note: text().nullable() };
    const before = model({ a: entity('a', columns) }, {});
    const after = model({ a: entity('a', { fresh: uuid(), ...columns }) }, {});
    const rows = samples(after)['a']?.map((row) => {
      const { fresh, ...rest } = row as Record<string, unknown>;
      expect(fresh).to.be.a('string');
      return rest;
    });
    expect(rows).to.deep.equal(samples(before)['a']);
  });

  it('have days that suit what a column is called', () => {
    const people = model(
      { pilot: entity('pilot', { id: integer().key(), born: date(), medicalUntil: date(), joined: date() }) },
      {},
    );
    const rows = Array.from(samples(people, { rows: { pilot: 200 } })['pilot'] ?? []) as {
      readonly [column: string]: string;
    }[];
    const yearsOf = (column: string): readonly number[] => {
      const days = rows.map((row) => Date.parse(row[column] ?? ''));
      const year = 365 * 86_400_000;
      return [Math.min(...days), Math.max(...days)].map((day) => (day - Date.UTC(2026, 2, 1)) / year);
    };
    expect(rows.length).to.be.above(100);
    const [oldest = 0, youngest = 0] = yearsOf('born');
    expect(oldest).to.be.within(-60, -50);
    expect(youngest).to.be.within(-30, -20);
    const [soonest = 0, latest = 0] = yearsOf('medicalUntil');
    expect(soonest).to.be.within(0, 0.3);
    expect(latest).to.be.within(1.7, 2);
    const [first = 0, last = 0] = yearsOf('joined');
    expect(first).to.be.within(-2, -1.7);
    expect(last).to.be.within(-0.3, 0);
  });

  it('begin with rows of your own, and complete them', () => {
    const own = { operator: [{ id: 7, name: 'Lantern Bay' }], vessel: [{ id: 1, operatorId: 7 }] };
    const rows = samples(fleet, { own, rows: 3 });
    expect(rows['operator']?.[0]).to.include({ id: 7, name: 'Lantern Bay' }).and.have.property('phone');
    expect(rows['vessel']?.[0]).to.include({ operatorId: 7 });
    expect(rows['operator']).to.have.length(3);
    memoryStore(fleet, rows);
    expect(
      samples(fleet, {
        own: {
          pilot: [
            { id: 1, name: 'A' },
            { id: 2, name: 'B' },
          ],
        },
        rows: 1,
      })['pilot'],
    ).to.have.length(2);
  });

  it('begin with the examples of columns', () => {
    const one = model({ a: entity('a', { id: integer().key(), name: text().example('Merrow') }) }, {});
    const [first, second] = samples(one)['a'] as readonly { name: string }[];
    expect(first?.name).to.equal('Merrow');
    expect(second?.name).not.to.equal('Merrow');
  });

  it('make keys of other keys, and no more rows than there are', () => {
    const pairs = model(
      {
        left: entity('left', { id: integer().key() }),
        right: entity('right', { id: integer().key() }),
        pair: entity('pair', { leftId: integer().key(), rightId: integer().key() }),
        only: entity('only', { leftId: integer().key() }),
      },
      {
        pair: { left: toOne('left', 'leftId'), right: toOne('right', 'rightId') },
        only: { left: toOne('left', 'leftId') },
        left: { pairs: toMany('pair', 'leftId') },
      },
    );
    const rows = samples(pairs, { rows: { left: 2, right: 2, pair: 50, only: 50 } });
    expect(rows['pair']?.length).to.be.within(1, 4);
    expect(rows['only']).to.have.length(2);
    memoryStore(pairs, rows);
  });

  it('say what cannot be made up', () => {
    const hard = model(
      {
        a: entity('a', {
          id: integer().key(),
          look: text({ pattern: /^(?=x)x$/ }),
          flag: bool().unique(),
        }),
      },
      {},
    );
    const message = declarationError(() => samples(hard));
    expect(message).to.contain(
      "a.look: no text could be made that matches its pattern: give it one, .example('…')",
    );
    expect(message).to.contain('a.flag: there are too few different values for a unique column');
    const eased = model(
      { a: entity('a', { id: integer().key(), look: text({ pattern: /^(?=x)x$/ }).example('x') }) },
      {},
    );
    expect(new Set(samples(eased)['a']?.map((row) => (row as { look: string }).look))).to.deep.equal(
      new Set(['x']),
    );
    expect(declarationError(() => samples(fleet, { rows: { vesel: 3 } }))).to.contain(
      'Did you mean "vessel"?',
    );
    expect(declarationError(() => samples(fleet, { rows: { vessel: 0, portCall: 2 } }))).to.contain(
      'portCall.vessel: it needs a vessel',
    );
  });

  it('make texts for patterns', () => {
    const patterns = [
      /^\d{7}$/,
      /^[A-Z]\d{1,2}$/,
      /^(?:ab|cd)+[^a-z]?$/,
      /^\w+\.\w{2,}$/,
      /^(?<year>\d{4})-x*$/,
      /a|b/,
      /^\D\W\S\s\t\n$/,
      /^[\w.-]{3,}[^\d\s]*[a-]$/,
      /^(?:[0-9]|x{2})?\b.+?\/$/,
      /^\p{Lu}[\p{Ll}]{2}$/u,
      /^a{0,2}b{3}$/,
    ];
    fc.assert(
      fc.property(
        fc.constantFrom(...patterns),
        fc.infiniteStream(fc.double({ min: 0, max: 0.999, noNaN: true })),
        (pattern, numbers) => {
          const made = textForPattern(pattern)?.(() => numbers.next().value as number) ?? '';
          expect(made).to.match(pattern);
        },
      ),
    );
    expect(textForPattern(/^(?!x)/)).to.equal(null);
    for (const pattern of [
      /(a)\1/,
      /(?<=x)y/,
      /(?<!x)y/,
      /(?=x)x/,
      /\x41/,
      /\u0041/,
      /[\x41]/,
      /[^\s\S -~]/,
      /(?<a>x)\k<a>/,
    ]) {
      expect(textForPattern(pattern), String(pattern)).to.equal(null);
    }
  });
});
