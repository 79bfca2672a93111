import { expect } from 'chai';
import {
  api,
  callerOf,
  collection,
  dateOnly,
  derive,
  integer,
  list,
  memoryStore,
  now,
  openApi,
  shape,
  text,
  wrap,
  writer,
} from 'gribo';
import { stock, stockRows } from '../../gribo/src/testing/stock.js';
import { serve } from './index.js';

const caller = callerOf({ zone: text(), user: integer().nullable() });
const Name = shape(stock.operator, (o) => ({ id: o.id }), { name: 'Name' });
const Answer = wrap(list(Name), (items, { total }) => ({
  zone: caller.zone,
  user: caller.user,
  at: now,
  day: dateOnly(now),
  loud: derive([caller.zone], text(), (zone) => zone.toUpperCase()),
  total,
  data: items,
}));
const names = api({
  title: 'Names',
  version: '1',
  caller,
  endpoints: { operators: collection('/operators', stock.operator, { list: Answer }) },
});
const start = new Date(0);
const around = '"zone":"utc","user":null,"at":"1970-01-01T00:00:00.000Z","day":"1970-01-01","loud":"UTC"';

describe('facts in what is around a body', () => {
  for (const engine of ['generated', 'interpreted'] as const) {
    it(`are written (${engine})`, () => {
      const write = writer(Answer, {}, { engine });
      const data = { items: [{ id: 1 }], total: 1 };
      const facts = { caller: { zone: 'utc', user: null }, now: start };
      expect(write.json(data as never, facts)).to.equal(`{${around},"total":1,"data":[{"id":1}]}`);
      expect(() => write.json(data as never, { caller: { user: null } }))
        .to.throw()
        .with.property('code', 'CALLER');
    });
  }

  const asking = (given: object) => {
    const told: string[] = [];
    const handle = serve(names, {
      store: memoryStore(stock, stockRows as never),
      caller: () => given,
      now: () => start,
      log: { error: (about: object) => void told.push(String((about as { err: Error }).err.message)) },
    });
    return {
      told,
      ask: async (path: string) => {
        const response = await handle(new Request(`http://n.test${path}`));
        return { status: response.status, text: await response.text() };
      },
    };
  };

  it('are sent, and can be chosen', async () => {
    const { ask } = asking({ zone: 'utc', user: null });
    expect((await ask('/operators')).text).to.contain(`{${around},"total":`);
    expect((await ask('/operators?fields=id')).text).to.contain('"data":[{"id":1}');
  });

  it('that are missing turn the caller away, with a line in the log', async () => {
    const { ask, told } = asking({ user: null });
    expect((await ask('/operators')).status).to.equal(403);
    expect(told.join()).to.contain('zone');
  });

  it('are described', () => {
    const { components } = openApi(names) as {
      components: { schemas: Record<string, { properties?: Record<string, object> }> };
    };
    const answer = Object.values(components.schemas).find(
      ({ properties }) => properties?.['loud'] !== undefined,
    );
    expect(answer?.properties).to.deep.include({
      zone: { type: 'string' },
      user: { type: ['integer', 'null'] },
      day: { type: 'string', format: 'date' },
    });
  });
});
