import { expect } from 'chai';
import {
  array,
  decimal,
  entity,
  type GriboError,
  integer,
  list,
  loadPlan,
  memoryStore,
  model,
  shape,
  text,
  timestamp,
  toOne,
  uuid,
  writer,
} from '../index.js';
import { stock } from '../testing/stock.js';
import { describeStore } from '../testing/store-suite.js';

describeStore('in memory', async (rows) => memoryStore(stock, rows));

describe('memoryStore', () => {
  const noted = model(
    { note: entity('note', { id: uuid().key().generated(), text: text(), at: timestamp().generated() }) },
    {},
  );

  it('makes what is generated, by the clock and the ids it is given', async () => {
    const options = {
      now: () => new Date('2026-01-02T03:04:05Z'),
      uuid: () => '00000000-0000-4000-8000-000000000001',
    };
    const store = memoryStore(noted, {}, options);
    const key = await store.create('note', { text: 'hello' });
    const Note = shape(noted.note, ({ id, text, at }) => ({ id, text, at }));
    const row = await store.read(loadPlan(Note), key);
    expect(writer(Note).object(row ?? {})).to.deep.equal({
      id: '00000000-0000-4000-8000-000000000001',
      text: 'hello',
      at: '2026-01-02T03:04:05.000Z',
    });
    const [random] = await memoryStore(noted).create('note', { text: 'x' });
    expect(random).to.match(/^[\da-f-]{36}$/);
  });

  it('is not changed by changing the rows it was given, nor by those it hands out', async () => {
    const given = { id: 1, name: 'Lantern Bay', parentId: null };
    const store = memoryStore(stock, { operator: [given] });
    given.name = 'Changed';
    const Name = shape(stock.operator, ({ name }) => ({ name }));
    const rows = await store.list(loadPlan(Name));
    expect(writer(list(Name)).json(rows)).to.equal('[{"name":"Lantern Bay"}]');
    expect(() => Object.assign(rows[0] ?? {}, { name: 'Changed' })).to.throw(TypeError);
  });

  it('keeps decimals with all their places, as databases do, and finds them however they are written', async () => {
    const dated = model(
      {
        rate: entity('rate', { level: decimal(5, 2).key(), steps: array(decimal(5, 2)) }),
        due: entity('due', { id: integer().key(), level: decimal(5, 2) }),
      },
      { due: { rate: toOne('rate', 'level') } },
    );
    const steps = ['1', '-0.5'];
    const store = memoryStore(dated, { rate: [{ level: '1.5', steps }] });
    steps.push('9');
    await store.create('due', { id: 1, level: '1.5' });
    const Rate = shape(dated.rate, ({ level, steps }) => ({ level, steps }));
    const Due = shape(dated.due, (d) => ({ level: d.level, rate: Rate(d.rate) }));
    const rate = { level: '1.50', steps: ['1.00', '-0.50'] };
    const [row] = await store.list(loadPlan(list(Due)));
    expect(writer(Due).object(row as never)).to.deep.equal({ level: '1.50', rate });
    for (const key of ['1.5', '1.50']) expect(await store.read(loadPlan(Rate), [key])).to.not.equal(null);
    expect(await store.amend('rate', ['1.5'], { steps: ['2'] })).to.equal(true);
    const twice = await store
      .create('rate', { level: '1.5', steps: [] })
      .catch(({ code }: GriboError) => code);
    expect(twice).to.equal('CONFLICT');
  });

  it('refuses rows that do not fit each other, and columns that it could not keep', () => {
    const told = (rows: Record<string, object[]>): string => {
      try {
        memoryStore(stock, rows);
        return '';
      } catch (error) {
        return (error as Error).message;
      }
    };
    const operator = { id: 1, name: 'A', parentId: null };
    expect(told({ operator: [operator, operator] })).to.match(/^operator\.id: another row has this value/);
    expect(told({ operator: [operator, { ...operator, id: 2 }] })).to.match(/^operator\.name: another row/);
    expect(told({ operator: [{ ...operator, parentId: 9 }] })).to.match(
      /^operator\.parentId: it names a row/,
    );
    expect(told({ operator: [{ id: 1, parentId: null }] })).to.match(
      /^operator\.name: it always has a value/,
    );
    // Rows may name each other in circles.
    expect(
      told({
        operator: [
          { ...operator, parentId: 2 },
          { id: 2, name: 'B', parentId: 1 },
        ],
      }),
    ).to.equal('');
    const via = model(
      {
        thing: entity('thing', {
          id: integer()
            .key()
            .via((row) => row['key']),
        }),
      },
      {},
    );
    expect(() => memoryStore(via)).to.throw(/thing\.id: it is read by \.via\(\)/);
  });

  it('never gives a number twice', async () => {
    const store = memoryStore(stock, { operator: [{ id: 7, name: 'A', parentId: null }] });
    expect(await store.create('operator', { name: 'B' })).to.deep.equal([8]);
    await store.remove('operator', [8]);
    expect(await store.create('operator', { name: 'C' })).to.deep.equal([9]);
  });
});
