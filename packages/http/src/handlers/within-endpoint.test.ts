import { expect } from 'chai';
import {
  api,
  atLeast,
  collection,
  contains,
  endpoint,
  list,
  memoryStore,
  rowRule,
  shape,
  text,
  values,
} from 'gribo';
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

describe('an endpoint of one’s own over a row', () => {
  const note = endpoint('POST /vessels/{id}/notes', {
    from: stock.vessel,
    takes: values({ words: text() }),
  });
  const notes = (made: typeof note) =>
    api({
      title: 'Notes',
      version: '1',
      rows: [rowRule(stock.vessel, (v) => atLeast(v.id, 2))],
      endpoints: { note: made },
    });
  const noting = (made: typeof note) => {
    const given: unknown[] = [];
    const handle = serve(notes(made), {
      store: memoryStore(stock, stockRows as never),
      handlers: {
        note: ({ row, key, input }) => {
          given.push([row?.name, key, input.words]);
        },
      },
    });
    const ask = async (id: string) => {
      const body = JSON.stringify({ words: 'Paint' });
      const headers = { 'content-type': 'application/json' };
      const request = new Request(`http://n.test/vessels/${id}/notes`, { method: 'POST', headers, body });
      const response = await handle(request);
      return [response.status, [...response.headers], await response.text()];
    };
    return { ask, given };
  };

  it('is asked of one that its caller sees, and its handler has it; others are not there', async () => {
    const { ask, given } = noting(note);
    expect((await ask('2'))[0]).to.equal(204);
    const hidden = await ask('1');
    expect(hidden[0]).to.equal(404);
    expect(await ask('99')).to.deep.equal(hidden);
    expect((await ask('x'))[0]).to.equal(404);
    expect(given).to.deep.equal([['Borrowed Light', [2], 'Paint']]);
  });

  it('looks for none where it makes it', async () => {
    const makes = endpoint('POST /vessels/{id}/notes', {
      from: stock.vessel,
      takes: values({ words: text() }),
      makes: true,
    });
    const { ask, given } = noting(makes);
    expect((await ask('99'))[0]).to.equal(204);
    expect(given).to.deep.equal([[undefined, [99], 'Paint']]);
  });
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
