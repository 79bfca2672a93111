import { expect } from 'chai';
import {
  api,
  audience,
  collection,
  entity,
  given,
  input,
  list,
  memoryStore,
  model,
  openApi,
  shape,
  text,
} from 'gribo';
import { serve } from '../index.js';

const db = model({ slip: entity('slip', { code: text().key(), note: text() }) }, {});
const Slip = shape(db.slip, (s) => ({ code: s.code, note: given(audience('pilot'), s.note) }), {
  name: 'Slip',
});
const NewSlip = input(db.slip, (s) => ({ code: s.code, note: s.note }), { name: 'NewSlip' });
const slips = api({
  title: 'Slips',
  version: '1',
  audiences: ['pilot', 'warden'],
  endpoints: {
    valueOf: collection('/slips', db.slip, {
      list: list(Slip),
      read: Slip,
      create: { takes: NewSlip, returns: Slip },
      audiences: { create: ['pilot'] },
    }),
  },
});

/** Where there is a function in a document. */
const functionsIn = (value: unknown, at = ''): readonly string[] => {
  if (typeof value === 'function') return [at];
  if (typeof value !== 'object' || value === null) return [];
  return Object.entries(value).flatMap(([name, inner]) => functionsIn(inner, `${at}/${name}`));
};

describe('names that every object has', () => {
  it('are names like others for endpoints; audiences have none of them', async () => {
    expect(functionsIn(openApi(slips))).to.deep.equal([]);
    for (const name of slips.plan.audiences) {
      expect(functionsIn(openApi(slips, { audience: name as 'pilot' })), name).to.deep.equal([]);
    }
    const store = memoryStore(db, { slip: [{ code: 'a', note: 'n' }] });
    const of = (name: 'pilot' | 'warden' | null) =>
      serve(slips, { store, caller: () => ({ audience: name }) });
    const read = async (name: 'pilot' | 'warden' | null): Promise<unknown> =>
      (await of(name)(new Request('http://s.test/slips/a'))).json();
    expect(await read('pilot')).to.deep.equal({ code: 'a', note: 'n' });
    expect(await read('warden')).to.deep.equal({ code: 'a' });
    expect(await read(null)).to.deep.equal({ code: 'a' });
  });

  it('and keys that mean a path above have no place to be told', async () => {
    const store = memoryStore(db, {});
    const handle = serve(slips, { store, caller: () => ({ audience: 'pilot' }) });
    const create = async (code: string) => {
      const headers = { 'content-type': 'application/json' };
      const body = JSON.stringify({ code, note: 'n' });
      return handle(new Request('http://s.test/slips', { method: 'POST', headers, body }));
    };
    for (const code of ['.', '..']) {
      const { status, headers } = await create(code);
      expect([status, headers.get('location')]).to.deep.equal([201, null]);
    }
    expect((await create('a/b?c#d')).headers.get('location')).to.equal('/slips/a%2Fb%3Fc%23d');
    expect((await handle(new Request('http://s.test/slips/a%2Fb%3Fc%23d'))).status).to.equal(200);
  });
});
