import { serve } from '@gribo/http';
import { expect } from 'chai';
import { loadPlan, type Store, shape } from 'gribo';
import { harbour } from './api.js';
import { NOW } from './data.js';
import { handlers } from './handlers.js';
import { db } from './model.js';
import { harbourStore } from './store.js';

const Call = shape(db.portCall, ({ id, status, eta, embargoUntil }) => ({ id, status, eta, embargoUntil }));

/** Until when a search goes on: to the millisecond. */
const FROM = Date.UTC(2026, 0, 1);
const UNTIL = Date.UTC(2027, 0, 1);

describe('what the harbour keeps to itself', () => {
  let store: Store;
  before(async () => {
    store = await harbourStore();
  });
  after(() => store.close?.());

  const asking = (caller: object) => {
    const handle = serve(harbour, { store, caller: () => caller, handlers, now: () => NOW });
    return async (path: string) => {
      const response = await handle(new Request(`http://harbour.test${path}`));
      return (await response.json()) as { items: { id: string; eta?: string }[]; page: { total: number } };
    };
  };

  /** The calls whose time is found by halving: how many requests it took, and what they say. */
  const search = async (caller: object, id: string): Promise<{ found: number | null; requests: number }> => {
    const ask = asking(caller);
    const isThere = async (from: number): Promise<boolean> => {
      const path = `/port-calls?size=100&from=${encodeURIComponent(new Date(from).toISOString())}`;
      const first = await ask(path);
      const rest = first.page.total > 100 ? (await ask(`${path}&page=2`)).items : [];
      return [...first.items, ...rest].some((item) => item.id === id);
    };
    let [low, high] = [FROM, UNTIL];
    let requests = 0;
    if (!(await isThere(low))) return { found: null, requests: 1 };
    while (high - low > 1) {
      const middle = Math.floor((low + high) / 2);
      requests++;
      if (await isThere(middle)) low = middle;
      else high = middle;
    }
    return { found: low, requests };
  };

  it('is not found by a search through ?from=, as the public; the office, which sees it, finds it', async () => {
    const rows = (await store.list(loadPlan(Call))) as unknown as {
      id: string;
      status: string;
      eta: Date;
      embargoUntil: Date | null;
    }[];
    const hidden = rows.find(
      ({ status, embargoUntil }) => status !== 'announced' && embargoUntil !== null && embargoUntil > NOW,
    );
    if (hidden === undefined) throw new Error('the demo has no call under embargo');
    const office = await search({ audience: 'harbourMaster' }, hidden.id);
    expect(office).to.deep.equal({ found: hidden.eta.getTime(), requests: 35 });
    expect(await search({ audience: 'public' }, hidden.id)).to.deep.equal({ found: null, requests: 1 });
    // Nor by the order: what is hidden stands with what has no time.
    const { items } = await asking({ audience: 'public' })('/port-calls?size=100&sort=eta');
    const times = items.map(({ eta }) => eta);
    expect(times.slice(times.indexOf(undefined)).every((eta) => eta === undefined)).to.equal(true);
  });
});
