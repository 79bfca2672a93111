import { expect } from 'chai';
import { api, atLeast, collection, contains, list, memoryStore, rowRule, shape } from 'gribo';
import { callId, stock, stockRows } from '../../../gribo/src/testing/stock.js';
import { serve } from '../index.js';

const CallLine = shape(stock.portCall, ({ id, vesselId, remarks }) => ({ id, vesselId, remarks }));

const fleet = api({
  title: 'Fleet',
  version: '1',
  // Vessel 1 is hidden, its calls are not.
  rows: [rowRule(stock.vessel, (v) => atLeast(v.id, 2))],
  endpoints: {
    calls: collection('/vessels/{vessel}/calls', stock.portCall, {
      under: 'vessel',
      list: list(CallLine),
      read: CallLine,
      filters: (c) => ({ remarks: contains(c.remarks) }),
    }),
  },
});

describe('what a handler loads', () => {
  const rows = { ...stockRows };
  const ask = async (path: string, beyond: boolean) => {
    const handle = serve(fleet, {
      store: memoryStore(stock, rows as never),
      handlers: {
        'calls.list': ({ load }) => (beyond ? load.anywhere : load).rows({ sort: ['eta'] }),
        'calls.read': ({ load, key }) => (beyond ? load.anywhere : load).row(...(key ?? [])),
      },
    });
    const response = await handle(new Request(`http://f.test${path}`));
    const body = (await response.json()) as { readonly id: string; readonly vesselId: number }[];
    return { status: response.status, body };
  };

  it('is under the parent that the path names, and what the query looks for', async () => {
    const { body } = await ask('/vessels/2/calls', false);
    expect(body.length).to.be.above(0);
    expect(new Set(body.map(({ vesselId }) => vesselId))).to.deep.equal(new Set([2]));
    expect((await ask('/vessels/2/calls?remarks=nothing-like-it', false)).body).to.deep.equal([]);
    const [first] = body;
    expect((await ask(`/vessels/2/calls/${first?.id}`, false)).status).to.equal(200);
    expect((await ask(`/vessels/3/calls/${first?.id}`, false)).status).to.equal(404);
  });

  it('is nothing where the caller does not see the parent', async () => {
    for (const beyond of [false, true]) {
      expect((await ask('/vessels/1/calls', beyond)).status).to.equal(404);
      expect((await ask('/vessels/99/calls', beyond)).status).to.equal(404);
      expect((await ask(`/vessels/1/calls/${callId(1)}`, beyond)).status).to.equal(404);
    }
  });

  it('is of any parent where it says so', async () => {
    const { body } = await ask('/vessels/2/calls?remarks=nothing-like-it', true);
    expect(new Set(body.map(({ vesselId }) => vesselId)).size).to.be.above(1);
  });
});
