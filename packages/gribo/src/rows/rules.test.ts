import { expect } from 'chai';
import {
  any,
  api,
  callerOf,
  collection,
  entity,
  equals,
  given,
  integer,
  json,
  list,
  memoryStore,
  model,
  page,
  rowRule,
  shape,
  storeFor,
  text,
  toOne,
  writer,
} from '../index.js';
import { describeRules } from '../testing/rules-suite.js';
import { stock } from '../testing/stock.js';

describeRules('memory', async (rows) => memoryStore(stock, rows as never));

describe('row rules', () => {
  const caller = callerOf({ harbour: integer() });
  const db = model(
    {
      berth: entity('berth', { quay: integer().key(), number: integer().key(), harbour: integer() }),
      call: entity('call', { id: integer().key(), quay: integer(), number: integer().nullable() }),
    },
    { call: { berth: toOne('berth', ['quay', 'number']) } },
  );
  const rule = rowRule(db.berth, (b) => equals(b.harbour, caller.harbour));
  const office = api({ title: 'Berths', version: '1', caller, rows: [rule], endpoints: {} });

  it('ask of a reference of two columns only where both name a row', async () => {
    const berths = [
      { quay: 1, number: 1, harbour: 1 },
      { quay: 1, number: 2, harbour: 2 },
    ];
    const mine = storeFor(memoryStore(db, { berth: berths }), office, { harbour: 1 });
    await mine.create('call', { id: 1, quay: 1, number: 1 });
    await mine.create('call', { id: 2, quay: 1, number: null });
    const refused = await mine.create('call', { id: 3, quay: 1, number: 2 }).then(
      () => null,
      (error: Error) => error.message,
    );
    expect(refused).to.equal(
      'call.quay, number: it names a row that is not there, or other rows still need it',
    );
    expect(await mine.count('call')).to.equal(2);
  });

  it('compare with JSON, whatever its members are called', () => {
    const books = model({ note: entity('note', { id: integer().key(), title: text(), data: json() }) }, {});
    const odd = [{ path: 3 }, { column: 'x' }, { link: null }, { fact: 1 }, { path: 4 }];
    const Note = shape(books.note, (n) => ({
      title: given(any(...odd.map((value) => equals(n.data, value))), n.title),
    }));
    const see = rowRule(books.note, (n) => any(...odd.map((value) => equals(n.data, value))));
    const { plan } = api({
      title: 'Notes',
      version: '1',
      rows: [see],
      endpoints: { notes: collection('/notes', books.note, { list: page(Note, { sort: ['title'] }) }) },
    });
    const shown = plan.endpoints[0]?.order[0]?.shown;
    expect(shown?.kind === 'any' ? shown.of : null, 'no two of them are the same').to.have.length(odd.length);
    const rows = [...odd, { path: 5 }].map((data, id) => ({ id, data, title: `${id}` }));
    expect(writer(list(Note)).object(rows)).to.deep.equal([
      ...odd.map((_data, id) => ({ title: `${id}` })),
      {},
    ]);
  });
});
