import { type Handler, type Handlers, serve } from '@gribo/http';
import {
  api,
  count,
  endpoint,
  entity,
  integer,
  type Key,
  model,
  type Store,
  shape,
  text,
  toMany,
  toOne,
  values,
} from 'gribo';
import { rowPlan } from '../../../http/src/operations/row-plan.js';

/*
 * Commands as one writes them first: load, look, change. Eight at once ask each of them for the same thing, and what is stored
 * afterwards has to be what the answers say.
 */

export const rush = model(
  {
    visit: entity(
      'visit',
      { id: integer().key(), status: text(), step: integer() },
      { stored: 'rush_visit' },
    ),
    fee: entity('fee', { id: integer().key(), visitId: integer() }, { stored: 'rush_fee' }),
    item: entity('item', { id: integer().key(), stock: integer() }, { stored: 'rush_item' }),
    payment: entity('payment', { id: integer().key(), itemId: integer() }, { stored: 'rush_payment' }),
    trip: entity('trip', { id: integer().key(), seats: integer() }, { stored: 'rush_trip' }),
    seat: entity('seat', { id: integer().key(), tripId: integer() }, { stored: 'rush_seat' }),
    account: entity('account', { id: integer().key(), balance: integer() }, { stored: 'rush_account' }),
  },
  {
    visit: { fees: toMany('fee', 'visitId') },
    fee: { visit: toOne('visit', 'visitId') },
    item: { payments: toMany('payment', 'itemId') },
    payment: { item: toOne('item', 'itemId') },
    trip: { taken: toMany('seat', 'tripId') },
    seat: { trip: toOne('trip', 'tripId') },
  },
);

/** The tables, in words that every database has. */
export const RUSH_TABLES: readonly string[] = [
  'create table rush_visit (id integer primary key, status varchar(20) not null, step integer not null)',
  'create table rush_fee (id integer primary key, visit_id integer not null references rush_visit (id))',
  'create table rush_item (id integer primary key, stock integer not null)',
  'create table rush_payment (id integer primary key, item_id integer not null references rush_item (id))',
  'create table rush_trip (id integer primary key, seats integer not null)',
  'create table rush_seat (id integer primary key, trip_id integer not null references rush_trip (id))',
  'create table rush_account (id integer primary key, balance integer not null)',
];

/** Takes them away again, those first that refer to others. */
export const RUSH_DROPS: readonly string[] = [
  'fee',
  'payment',
  'seat',
  'visit',
  'item',
  'trip',
  'account',
].map((name) => `drop table if exists rush_${name}`);

const Visit = shape(rush.visit, (v) => ({ id: v.id, status: v.status, step: v.step, fees: count(v.fees) }));
const Item = shape(rush.item, ({ id, stock }) => ({ id, stock }));
const numbered = { number: integer() };
const refused = { refused: { status: 409, title: 'Not any more.' } } as const;

const office = api({
  title: 'Rush',
  version: '1',
  endpoints: {
    cancel: endpoint('POST /visits/{id}/cancel', {
      from: rush.visit,
      takes: values(numbered),
      returns: Visit,
      problems: refused,
    }),
    advance: endpoint('POST /visits/{id}/advance', {
      from: rush.visit,
      takes: values({ from: integer() }),
      problems: refused,
    }),
    count: endpoint('POST /items/{id}/count', { from: rush.item, returns: Item }),
    buy: endpoint('POST /items/{id}/buy', { from: rush.item, takes: values(numbered), problems: refused }),
    sit: endpoint('POST /trips/{id}/sit', { from: rush.trip, takes: values(numbered), problems: refused }),
    transfer: endpoint('POST /transfer', {
      takes: values({ from: integer(), to: integer(), amount: integer() }),
      problems: refused,
    }),
  },
});

type Rush = typeof office;

const cancel: Handler<Rush, 'cancel'> = ({ input, key, load, store, transaction, problem }) =>
  transaction(async () => {
    const visit = await load.from(rush.visit).row(...(key ?? []));
    if (visit === null || visit.status !== 'expected') throw problem('refused');
    await store.amend('visit', [visit.id], { status: 'cancelled' });
    await store.create('fee', { id: input.number, visitId: visit.id });
    return load.row(visit.id);
  });

const handlers: Handlers<Rush> = {
  cancel,
  advance: ({ input, key, load, store, transaction, problem }) =>
    transaction(async () => {
      const visit = await load.from(rush.visit).row(...(key ?? []));
      if (visit?.step !== input.from) throw problem('refused');
      await store.amend('visit', key ?? [], { step: input.from + 1 });
    }),
  count: ({ key, load, store, transaction }) =>
    transaction(async () => {
      const item = await load.from(rush.item).row(...(key ?? []));
      await store.amend('item', key ?? [], { stock: (item?.stock ?? 0) + 1 });
      return load.row(...(key ?? []));
    }),
  buy: ({ input, key, load, store, transaction, problem }) =>
    transaction(async () => {
      const item = await load.from(rush.item).row(...(key ?? []));
      if (item === null || item.stock < 1) throw problem('refused');
      await store.amend('item', [item.id], { stock: item.stock - 1 });
      await store.create('payment', { id: input.number, itemId: item.id });
    }),
  sit: ({ input, key, load, store, transaction, problem }) =>
    transaction(async () => {
      const trip = await load.from(rush.trip).row(...(key ?? []));
      const taken = await load.from(rush.seat).rows({ where: { tripId: trip?.id ?? 0 } });
      if (trip === null || taken.length >= trip.seats) throw problem('refused');
      await store.create('seat', { id: input.number, tripId: trip.id });
    }),
  transfer: ({ input, load, store, transaction, problem }) =>
    transaction(async () => {
      const from = await load.from(rush.account).row(input.from);
      const to = await load.from(rush.account).row(input.to);
      if (from === null || to === null || from.balance < input.amount) throw problem('refused');
      await store.amend('account', [from.id], { balance: from.balance - input.amount });
      await store.amend('account', [to.id], { balance: to.balance + input.amount });
    }),
};

/** How many ask at once. */
const CROWD = 8;

interface Told {
  readonly status: number;
  readonly body: { readonly stock?: number } | null;
}

/** What was wrong in a round; empty where what is stored is what the answers say. */
export class Rushing {
  readonly #store: Store;
  readonly #ask: (path: string, body?: object) => Promise<Told>;
  #number = 0;
  #wrong: string[] = [];
  /** Answers by their status, over all rounds. */
  readonly statuses: Record<number, number> = {};

  constructor(store: Store) {
    this.#store = store;
    const handle = serve(office, { store, handlers, log: { error: () => undefined } });
    this.#ask = async (path, body) => {
      const sent =
        body === undefined
          ? {}
          : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) };
      const response = await handle(new Request(`http://r.test${path}`, { method: 'POST', ...sent }));
      const text = await response.text();
      return { status: response.status, body: text === '' ? null : (JSON.parse(text) as Told['body']) };
    };
  }

  #next(): number {
    this.#number += 1;
    return this.#number;
  }

  async #crowd(path: string, body: (at: number) => object | undefined): Promise<readonly Told[]> {
    const all = await Promise.all(Array.from({ length: CROWD }, (_, at) => this.#ask(path, body(at))));
    for (const { status } of all) this.statuses[status] = (this.statuses[status] ?? 0) + 1;
    const others = all.filter(({ status }) => ![200, 204, 409, 503].includes(status));
    if (others.length > 0) this.#wrong.push(`${path}: ${others.map(({ status }) => status).join()}`);
    // One that nobody is in the way of gets through.
    if (!all.some(({ status }) => status < 300)) this.#wrong.push(`${path}: none of them was done`);
    return all;
  }

  async #row(name: keyof typeof rush, key: Key): Promise<Readonly<Record<string, unknown>>> {
    const { entity: plan } = rush[name];
    return ((await this.#store.read(rowPlan(plan, plan.columns), key)) ?? {}) as Readonly<
      Record<string, unknown>
    >;
  }

  /** One round of all commands, on rows of its own. */
  async round(): Promise<readonly string[]> {
    const wrong: string[] = [];
    this.#wrong = wrong;
    const held = (what: string, stored: unknown, told: unknown): void => {
      if (stored !== told) wrong.push(`${what}: stored ${String(stored)}, told ${String(told)}`);
    };
    const done = (all: readonly Told[]): number => all.filter(({ status }) => status < 300).length;
    const at = this.#next();
    const store = this.#store;
    await store.create('visit', { id: at, status: 'expected', step: 0 });
    await store.create('item', { id: at, stock: 3 });
    await store.create('trip', { id: at, seats: 3 });

    const cancelled = await this.#crowd(`/visits/${at}/cancel`, () => ({ number: this.#next() }));
    held('fees of a cancelled visit', await this.#rows('fee', 'visitId', at), done(cancelled));
    held('fees beyond the first', Math.max(done(cancelled), 1), 1);
    const advanced = await this.#crowd(`/visits/${at}/advance`, () => ({ from: 0 }));
    held('steps of a visit', (await this.#row('visit', [at]))['step'], done(advanced));
    const bought = await this.#crowd(`/items/${at}/buy`, () => ({ number: this.#next() }));
    held('stock', (await this.#row('item', [at]))['stock'], 3 - done(bought));
    held('payments', await this.#rows('payment', 'itemId', at), done(bought));
    const before = Number((await this.#row('item', [at]))['stock']);
    const counted = await this.#crowd(`/items/${at}/count`, () => undefined);
    held('a counter', (await this.#row('item', [at]))['stock'], before + done(counted));
    const numbers = counted.flatMap(({ body, status }) => (status === 200 ? [body?.stock] : []));
    held('numbers of a counter', new Set(numbers).size, numbers.length);
    const sat = await this.#crowd(`/trips/${at}/sit`, () => ({ number: this.#next() }));
    held('seats', await this.#rows('seat', 'tripId', at), done(sat));
    held('seats beyond the last', Math.max(done(sat), 3), 3);
    const [one, other] = [this.#next(), this.#next()];
    await store.create('account', { id: one, balance: 10 });
    await store.create('account', { id: other, balance: 10 });
    const moved = await this.#crowd('/transfer', (turn) =>
      turn % 2 === 0 ? { from: one, to: other, amount: 3 } : { from: other, to: one, amount: 3 },
    );
    const [first, second] = [await this.#row('account', [one]), await this.#row('account', [other])];
    held('the sum of two accounts', Number(first['balance']) + Number(second['balance']), 20);
    const there = moved.filter(({ status }, turn) => status < 300 && turn % 2 === 0).length;
    held('an account', first['balance'], 10 - 3 * there + 3 * (done(moved) - there));
    return wrong;
  }

  async #rows(name: 'fee' | 'payment' | 'seat', column: string, value: number): Promise<number> {
    const { entity: plan } = rush[name];
    const rows = await this.#store.list(rowPlan(plan, plan.columns));
    return rows.filter((row) => (row as Readonly<Record<string, unknown>>)[column] === value).length;
  }
}
