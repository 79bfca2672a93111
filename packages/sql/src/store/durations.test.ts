import { expect } from 'chai';
import {
  amending,
  api,
  array,
  collection,
  duration,
  entity,
  input,
  integer,
  isNull,
  list,
  model,
  shape,
} from 'gribo';
import { sql } from 'kysely';
import { dialectOf } from '../dialects/dialects.js';
import { asking, everyPlace, type Kept } from '../testing/every-place.js';

const db = model(
  {
    shift: entity(
      'shift',
      { id: integer().key(), length: duration(), rest: duration().nullable(), said: duration().nullable() },
      { stored: 'worked_shift' },
    ),
  },
  {},
);

const Shift = shape(db.shift, ({ id, length, rest, said }) => ({ id, length, rest, said }), {
  name: 'Shift',
});
const NewShift = input(db.shift, ({ id, length, rest, said }) => ({ id, length, rest, said }), {
  name: 'NewShift',
});
const office = api({
  title: 'Shifts',
  version: '1',
  endpoints: {
    shifts: collection('/shifts', db.shift, {
      list: list(Shift),
      read: Shift,
      create: { takes: NewShift, returns: Shift },
      amend: {
        takes: amending(NewShift, ({ length, rest, said }) => ({ length, rest, said })),
        returns: Shift,
      },
      sort: ['id'],
      filters: (s) => ({ restless: isNull(s.rest) }),
    }),
  },
});

const KEPT: Kept = {
  model: db,
  // In PostgreSQL one is kept as text, as other databases keep all.
  tables: (dialect) => {
    const type = dialect === 'postgres' ? 'interval' : 'varchar(60)';
    return {
      worked_shift: `id integer primary key, length ${type} not null, rest ${type}, said varchar(60)`,
    };
  },
  rows: { shift: [{ id: 1, length: 'PT6H30M', rest: null, said: 'PT90M' }] },
};

everyPlace('durations', KEPT, (place) => {
  const ask: ReturnType<typeof asking> = (...asked) => asking(office, place().stores[0])(...asked);

  it('are written in one way, whatever keeps them and however they were sent', async () => {
    const sent = [
      ['PT90M', 'PT1H30M'],
      ['P2W', 'P14D'],
      ['P14M', 'P1Y2M'],
      ['PT36000S', 'PT10H'],
      ['PT0.250000S', 'PT0.25S'],
      ['PT-0.5S', 'PT-0.5S'],
      ['P1DT-2H', 'P1DT-2H'],
      ['P0D', 'PT0S'],
      ['P999999Y11M', 'P999999Y11M'],
      ['P1Y2M3W4DT5H6M7.89S', 'P1Y2M25DT5H6M7.89S'],
    ] as const;
    for (const [i, [length, shown]] of sent.entries()) {
      const body = { id: i + 10, length, rest: length, said: length };
      expect((await ask('POST', '/shifts', body))[0], length).to.equal(201);
      for (const store of place().stores) {
        const [, read] = await asking(office, store)('GET', `/shifts/${i + 10}`);
        expect(read).to.deep.equal({ id: i + 10, length: shown, rest: shown, said: shown });
      }
    }
    expect((await ask('GET', '/shifts?restless=true'))[1]).to.deep.equal([
      { id: 1, length: 'PT6H30M', rest: null, said: 'PT1H30M' },
    ]);
  });

  it('are refused where they are none, or longer than can be written', async () => {
    for (const length of [
      '',
      'P',
      'PT',
      '6:30',
      'P1H',
      'PT1.1234567S',
      'P1.5D',
      'p1d',
      7,
      'PT999999999H99999999M',
    ]) {
      const [status, { errors }] = await ask('POST', '/shifts', { id: 30, length, rest: null, said: null });
      expect([status, errors?.[0]?.pointer], String(length)).to.deep.equal([422, '/length']);
    }
  });

  it('are read whatever the session writes intervals like', async () => {
    const { kysely } = place();
    if (kysely === null || dialectOf(kysely).name !== 'postgres') return;
    await sql`insert into worked_shift values (2, interval '1 mon -1 day +02:03:04.5', interval '-90 minutes', null)`.execute(
      kysely,
    );
    expect((await ask('GET', '/shifts/2'))[1]).to.deep.equal({
      id: 2,
      length: 'P1M-1DT2H3M4.5S',
      rest: 'PT-1H-30M',
      said: null,
    });
  });
});

describe('a duration', () => {
  it('has no order, and is in no array', () => {
    const line = list(Shift);
    const sorted = (): unknown => collection('/sorted', db.shift, { list: line, sort: ['length' as never] });
    expect(sorted).to.throw('duration values have no order');
    expect(() => entity('many', { id: integer().key(), lengths: array(duration()) })).to.throw(
      'an array holds no duration',
    );
  });
});
