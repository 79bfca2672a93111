import { expect } from 'chai';
import {
  api,
  callerOf,
  collection,
  endpoint,
  entity,
  equals,
  integer,
  list,
  loadPlan,
  memoryStore,
  model,
  page,
  rowRule,
  shape,
  text,
} from 'gribo';
import { type Handlers, serve } from '../index.js';

const db = model(
  {
    note: entity('note', { id: integer().key(), owner: integer(), text: text() }),
    pair: entity('pair', { a: integer().key(), b: integer().key(), owner: integer() }),
  },
  {},
);
const caller = callerOf({ user: integer() });
const Note = shape(db.note, ({ id, text }) => ({ id, text }), { name: 'Note' });
const Pair = shape(db.pair, ({ a, b }) => ({ a, b }), { name: 'Pair' });
const notes = api({
  title: 'Notes',
  version: '1',
  caller,
  rows: [
    rowRule(db.note, (n) => equals(n.owner, caller.user)),
    rowRule(db.pair, (p) => equals(p.owner, caller.user)),
  ],
  endpoints: {
    notes: collection('/notes', db.note, { list: list(Note), read: Note }),
    paged: collection('/paged', db.note, { list: page(Note) }),
    pairs: endpoint('GET /pairs', { from: db.pair, returns: list(Pair) }),
  },
});
const rows = [1, 2, 3, 4].map((id) => ({ id, owner: id % 2, text: `n${id}` }));
const pairs = [1, 2].map((a) => ({ a, b: 7, owner: a % 2 }));

describe('rows that handlers give', () => {
  const asking = (handlers: Handlers<typeof notes>, options: object = {}) => {
    const told: string[] = [];
    const store = memoryStore(db, { note: rows, pair: pairs });
    const counted = { statements: 0 };
    const watched = new Proxy(store, {
      get: (of, name) => {
        if (name === 'count') counted.statements++;
        const value: unknown = Reflect.get(of, name);
        return typeof value === 'function' ? value.bind(of) : value;
      },
    });
    const log = { error: (about: object) => void told.push(String((about as { err: Error }).err.message)) };
    const handle = serve(notes, { store: watched, caller: () => ({ user: 1 }), handlers, log, ...options });
    const ask = async (path: string) => {
      const response = await handle(new Request(`http://n.test${path}`));
      return { status: response.status, text: await response.text() };
    };
    return { ask, told, counted };
  };
  const [own, other] = [rows[0] as (typeof rows)[0], rows[1] as (typeof rows)[0]];

  it('are sent where the caller may see them', async () => {
    const { ask, told } = asking({
      'notes.read': () => ({ ...own, text: 'mine' }),
      'notes.list': () => [own],
    });
    expect(await ask('/notes/1')).to.deep.equal({ status: 200, text: '{"id":1,"text":"mine"}' });
    expect((await ask('/notes')).text).to.equal('[{"id":1,"text":"n1"}]');
    expect(told).to.deep.equal([]);
  });

  it('are not sent where it may not: somebody is told', async () => {
    const { ask, told } = asking({
      'notes.read': () => other,
      'notes.list': () => [own, other],
      'paged.list': () => ({ items: [other], number: 1, size: 20, total: 1, pages: 1 }) as never,
      pairs: () => pairs,
    });
    expect((await ask('/notes/1')).status).to.equal(404);
    for (const path of ['/notes', '/paged', '/pairs']) {
      const { status, text } = await ask(path);
      expect([path, status]).to.deep.equal([path, 403]);
      expect(text).to.not.contain('n2');
    }
    expect(told).to.deep.equal([
      'the handler of notes.read gave a row of note that this caller may not see',
      'the handler of notes.list gave a row of note that this caller may not see',
      'the handler of paged.list gave a row of note that this caller may not see',
      'the handler of pairs gave a row of pair that this caller may not see',
    ]);
  });

  it('of the caller’s own store cost no statement', async () => {
    const { ask, counted } = asking({
      'notes.list': ({ store }) => store.list(loadPlan(list(Note))) as never,
      'notes.read': ({ load }) => load.row(3),
    });
    expect((await ask('/notes')).text).to.equal('[{"id":1,"text":"n1"},{"id":3,"text":"n3"}]');
    expect((await ask('/notes/3')).status).to.equal(200);
    expect(counted.statements).to.equal(0);
  });

  it('are looked at as they come where they come one after the other', async () => {
    async function* some(...given: object[]) {
      yield* given as never[];
    }
    const { ask } = asking({ 'notes.list': (() => some(own, rows[2] as object)) as never });
    expect((await ask('/notes')).text).to.equal('[{"id":1,"text":"n1"},{"id":3,"text":"n3"}]');
    const wrong = asking({ 'notes.list': (() => some(other)) as never });
    const sent = await wrong.ask('/notes').catch((error: Error) => ({ status: 0, text: error.message }));
    expect(sent.text).to.not.contain('n2');
    expect(wrong.told.length).to.be.above(0);
  });

  it('have to have their key, or are trusted', async () => {
    const handlers: Handlers<typeof notes> = { 'notes.list': () => [{ text: 'x' } as never, own] };
    const { ask, told } = asking(handlers);
    expect((await ask('/notes')).status).to.equal(500);
    expect(told[0]).to.contain('gave a row without its key, id');
    const trusting = asking({ 'notes.read': () => other }, { rowsOfHandlers: 'trust' });
    expect((await trusting.ask('/notes/1')).text).to.equal('{"id":2,"text":"n2"}');
  });
});
