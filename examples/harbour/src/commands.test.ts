import { serve } from '@gribo/http';
import { expect } from 'chai';
import { equals, not, rowsWhere, type Store } from 'gribo';
import { type ApiProblem, connect, isProblem } from '../generated/client.js';
import { harbour } from './api.js';
import { NOW } from './data.js';
import { handlers } from './handlers.js';
import { db } from './model.js';
import { harbourStore } from './store.js';

const CALLERS = {
  public: { audience: 'public' },
  agent: { audience: 'agent', user: 'lantern', operatorId: 2 },
  harbourMaster: { audience: 'harbourMaster', user: 'office' },
} as const;

describe('the commands of the harbour, through the generated client', () => {
  let store: Store;
  before(async () => {
    store = await harbourStore();
  });
  after(() => store.close?.());

  const clientFor = <A extends keyof typeof CALLERS>(audience: A) => {
    const handle = serve(harbour, {
      store: () => store,
      handlers,
      now: () => NOW,
      caller: () => CALLERS[audience],
    });
    const asking = (url: string | URL | Request, init?: RequestInit) => handle(new Request(url, init));
    return connect<A>({ base: 'http://harbour.test', fetch: asking as typeof fetch });
  };
  const office = clientFor('harbourMaster');
  const agent = clientFor('agent');

  const problemOf = async (work: Promise<unknown>): Promise<unknown> =>
    work.then(
      () => null,
      (error: unknown) => error,
    );

  /** The calls of a status whose vessel an agent looks after, or does not. */
  const callsOf = async (status: string, isOwn: boolean): Promise<readonly string[]> => {
    const where = rowsWhere(db.portCall, (c) => equals(c.status, status as 'announced'));
    const own = rowsWhere(db.portCall, (c) => equals(c.vessel.operatorId, 2));
    const others = rowsWhere(db.portCall, (c) => not(equals(c.vessel.operatorId, 2)));
    const plan = {
      entity: 'portCall',
      table: 'port_call',
      key: ['id'],
      columns: [{ name: 'id', stored: 'id', type: { kind: 'uuid' }, coded: null }],
      links: [],
      figures: [],
    } as const;
    const rows = await store.list(plan, { where: [...where, ...(isOwn ? own : others)] });
    return rows.map((row) => (row as { id: string }).id);
  };

  it('cancel a call for a reason, or say what would come of it', async () => {
    const [id = ''] = await callsOf('confirmed', false);
    const path = { id };
    const dry = await office('portCalls.cancel', {
      path,
      body: { reason: 'storm' },
      query: { dryRun: true },
    });
    expect(dry).to.include({ id, status: 'cancelled' });
    expect(await office('portCalls.read', { path })).to.include({ status: 'confirmed' });
    const done = await office('portCalls.cancel', { path, body: { reason: 'storm' } });
    expect(done.remarks).to.match(/Cancelled: storm$/);
    const again = await problemOf(office('portCalls.cancel', { path, body: { reason: 'storm' } }));
    if (!isProblem(again, 'portCalls.cancel', 'not-expected')) throw again;
    expect([again.status, again.problem.callStatus]).to.deep.equal([409, 'cancelled']);
    const short = await problemOf(office('portCalls.cancel', { path, body: { reason: 'x' } }));
    expect((short as ApiProblem).problem.errors?.[0]).to.include({ pointer: '/reason', code: 'length' });
  });

  it('keep a berth and a pilot for a call, both or neither', async () => {
    const calls = await callsOf('confirmed', false);
    const pilots = () => store.count('pilotage');
    const before = await pilots();
    const kept: string[] = [];
    const refused: unknown[] = [];
    for (const id of calls.slice(0, 4)) {
      for (const berth of [5, 4, 3, 6, 7, 8, 9]) {
        const made = office('portCalls.reserve', { path: { id }, body: { berth, pilot: 4 } });
        const told = await problemOf(made);
        if (told === null) kept.push(id);
        else refused.push(told);
        if (told === null) break;
      }
    }
    expect([kept.length > 0, refused.length > 0, (await pilots()) - before]).to.deep.equal([
      true,
      true,
      kept.length,
    ]);
    const deep = refused.find((one) => isProblem(one, 'portCalls.reserve', 'does-not-fit'));
    if (!isProblem(deep, 'portCalls.reserve', 'does-not-fit'))
      throw new Error('every vessel fits every berth');
    expect(deep.problem.draughtM).to.be.above(deep.problem.maxDraughtM);
    // The pilot is there already: the berth is not kept either.
    const [id = ''] = kept;
    const berthOf = async () => (await office('portCalls.read', { path: { id } })).berth;
    const was = await berthOf();
    for (const berth of [4, 5, 6, 7, 8, 9]) {
      const told = await problemOf(office('portCalls.reserve', { path: { id }, body: { berth, pilot: 4 } }));
      expect((told as ApiProblem).status).to.be.oneOf([409, 422]);
    }
    expect([await berthOf(), (await pilots()) - before]).to.deep.equal([was, kept.length]);
    const nowhere = await problemOf(office('portCalls.reserve', { path: { id }, body: { berth: 99 } }));
    expect((nowhere as ApiProblem).problem.errors?.[0]).to.include({ pointer: '/berth' });
  });

  it('are for those whose calls they are', async () => {
    const [theirs = ''] = await callsOf('confirmed', false);
    const [own = ''] = await callsOf('confirmed', true);
    const cancelling = (id: string) =>
      agent('portCalls.cancel', { path: { id }, body: { reason: 'storm' }, query: { dryRun: true } });
    expect(((await problemOf(cancelling(theirs))) as ApiProblem).status).to.equal(403);
    expect(await cancelling(own)).to.include({ id: own });
    const crates = [{ commodity: 'Rope', weightKg: 200, consignee: 'Dunlin' }];
    const entering = (portCall: string) => agent('cargo.create', { path: { portCall }, body: crates });
    expect(((await problemOf(entering(theirs))) as ApiProblem).status).to.equal(403);
    const before = await store.count('cargoItem');
    await entering(own);
    expect(await store.count('cargoItem')).to.equal(before + 1);
    const wrong = agent('cargo.create', {
      path: { portCall: own },
      body: [...crates, { commodity: '', weightKg: -1, consignee: 'D' }],
    });
    expect(
      ((await problemOf(wrong)) as ApiProblem).problem.errors?.map(({ pointer }) => pointer),
    ).to.deep.equal(['/1/commodity', '/1/weightKg']);
    expect(await store.count('cargoItem')).to.equal(before + 1);
  });

  it('keep and send photographs', async () => {
    const picture = await clientFor('public')('vessels.photo', { path: { vesselId: 1 } });
    expect(picture.type).to.equal('image/png');
    await office('vessels.setPhoto', { path: { vesselId: 9 }, files: { image: picture } });
    const kept = await office('vessels.photo', { path: { vesselId: 9 } });
    expect(await kept.arrayBuffer()).to.deep.equal(await picture.arrayBuffer());
    const wrong = { image: new Blob(['<p>'], { type: 'text/html' }) };
    const told = await problemOf(office('vessels.setPhoto', { path: { vesselId: 9 }, files: wrong }));
    expect((told as ApiProblem).problem.errors?.[0]).to.include({ pointer: '/image', code: 'choice' });
    const missing = await problemOf(office('vessels.photo', { path: { vesselId: 40 } }));
    expect((missing as ApiProblem).status).to.equal(404);
  });
});
