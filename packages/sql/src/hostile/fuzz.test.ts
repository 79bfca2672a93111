import { serve } from '@gribo/http';
import { expect } from 'chai';
import { memoryStore } from 'gribo';
import { valueFromText } from 'gribo/kit';
import { cases, isCounted, seed } from '../../../gribo/src/testing/cases.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { sqlStore } from '../store/sql-store.js';
import { databases } from '../testing/databases.js';
import { randomFrom, TEXTS, VALUES } from '../testing/hostile-values.js';
import { fillTraps, makeTraps, trap, trapRows, traps } from '../testing/trap.js';

/** So many requests are sent to each database. */
const REQUESTS = cases(1500);
const SEED = seed ?? 13;

interface Hostile {
  readonly method: string;
  readonly path: string;
  readonly body: unknown;
  /** Whether its answer is the same on every store: text is put in order differently, and the least numbers are nothing. */
  readonly isExact: boolean;
}

const LISTING = traps.plan.endpoints.find(({ name }) => name === 'crates.list');

/** Numbers between zero and the least of 32 bits. */
const TINY = /\d[eE]-/;

/** Makes requests that no honest client would send. */
class Attacker {
  readonly #random: () => number;
  readonly #filters: readonly string[];
  readonly #columns: readonly string[];

  constructor(seed: number) {
    this.#random = randomFrom(seed);
    this.#filters = LISTING?.filters.map(({ name }) => name) ?? [];
    this.#columns = ['whole', ...(LISTING?.sort.map(({ name }) => name) ?? [])];
  }

  #one<T>(of: readonly T[]): T {
    return of[Math.floor(this.#random() * of.length)] as T;
  }

  #text(): string {
    return encodeURIComponent(this.#one(TEXTS));
  }

  next(): Hostile {
    const made = this.#random();
    const path = `/${this.#one(['crates', 'slips', 'tokens'])}/${this.#text()}`;
    const get = (at: string, isExact = true): Hostile => ({
      method: 'GET',
      path: at,
      body: undefined,
      isExact,
    });
    if (made < 0.4) return this.#listing(get);
    if (made < 0.5) return this.#paging(get);
    if (made < 0.6) return get(path);
    if (made < 0.65) return get(`/berthings/${this.#text()}/${this.#text()}`);
    if (made < 0.7) return { ...get(path), method: 'DELETE' };
    const body = this.#body(made < 0.85);
    if (made < 0.85) return { ...get(this.#one(['/crates', '/slips'])), method: 'POST', body };
    return { ...get(this.#one([path, '/crates/1', '/slips/a'])), method: 'PATCH', body };
  }

  /** A text for a filter: mostly one that its column reads, for others go no further than the query. */
  #textFor(name: string): string {
    const { filters = [] } = LISTING ?? {};
    const column = filters.find((filter) => filter.name === name)?.column;
    const read = TEXTS.filter((text) => column !== undefined && valueFromText(column, text).ok);
    return encodeURIComponent(this.#random() < 0.2 || read.length === 0 ? this.#one(TEXTS) : this.#one(read));
  }

  #listing(get: (path: string, isExact: boolean) => Hostile): Hostile {
    const names = [...new Set([this.#one(this.#filters), this.#one(this.#filters)])];
    const query = names.map((name) => `${name}=${this.#textFor(name)}`).join('&');
    return get(`/crates?${query}`, !names.includes('narrowFrom') && !TINY.test(query));
  }

  /** A cursor as one was given, with one value changed. */
  #paging(get: (path: string, isExact: boolean) => Hostile): Hostile {
    const column = this.#one(this.#columns);
    const order = this.#one([column, `${column} desc`]);
    const values = JSON.stringify([order, this.#one(VALUES), this.#one(['1', '2', this.#one(TEXTS)])]);
    const cursor = Buffer.from(values).toString('base64url');
    // A cursor that was given has seconds in its times of day, a day of the calendar, and a choice that there is: behind
    // what is none, some stores find nothing, and others what comes next as text.
    const isGiven = !['"06:30"', '"2026-02-30"', '"unheard"'].some((text) => values.includes(text));
    const isExact = isGiven && !TINY.test(values);
    return get(`/crates?sort=${encodeURIComponent(order)}&after=${cursor}`, isExact);
  }

  #body(isNew: boolean): unknown {
    if (this.#random() < 0.05) return this.#one(VALUES);
    const columns = trap.crate.entity.columns.filter(() => this.#random() < 0.15);
    const id = isNew ? { id: this.#one(['77', '78', this.#one(VALUES)]) } : {};
    const members = Object.fromEntries(columns.map(({ name }) => [name, this.#one(VALUES)]));
    return this.#random() < 0.3
      ? { ...(isNew ? { code: this.#one(VALUES) } : {}), note: this.#one(VALUES) }
      : { ...members, ...id };
  }
}

for (const { name, variable, open } of databases) {
  describe(`hostile requests to ${name}${variable === null ? '' : ` (${variable})`}`, function () {
    this.timeout(Math.max(900_000, REQUESTS * 20));
    let kysely: AnyKysely | null = null;
    before(async function () {
      kysely = await open();
      if (kysely === null) return this.skip();
      await makeTraps(kysely);
      await fillTraps(kysely);
    });
    after(() => kysely?.destroy());

    it(`never cause a 5xx, nor get a row that they did not ask for (${REQUESTS}, seed ${SEED})`, async () => {
      const failures: string[] = [];
      const log = { error: (about: object) => void failures.push(JSON.stringify(about)) };
      const served = serve(traps, { store: sqlStore(trap, kysely as AnyKysely), log });
      const inMemory = serve(traps, { store: memoryStore(trap, trapRows), log });
      const send = async (to: typeof served, { method, path, body }: Hostile) => {
        const sent = body === undefined ? {} : { body: JSON.stringify(body) };
        const headers = { 'content-type': 'application/json' };
        const response = await to(new Request(`http://t.test${path}`, { method, headers, ...sent }));
        return { status: response.status, text: await response.text() };
      };
      const attacker = new Attacker(SEED);
      const counts = new Map<string, number>();
      const wrong: string[] = [];
      for (let i = 0; i < REQUESTS && wrong.length < 10; i++) {
        const request = attacker.next();
        const got = await send(served, request);
        const about = `#${i} ${request.method} ${request.path.slice(0, 300)} ${JSON.stringify(request.body)?.slice(0, 500)}`;
        if (got.status >= 500)
          wrong.push(`${about}\n  ${got.status}: ${failures.splice(0).join().slice(0, 400)}`);
        const kind = `${request.method} ${got.status}`;
        counts.set(kind, (counts.get(kind) ?? 0) + 1);
        if (request.method === 'GET' && request.isExact) {
          const expected = await send(inMemory, request);
          const isSame = got.status === expected.status && got.text === expected.text;
          if (!isSame) wrong.push(`${about}\n  ${got.text.slice(0, 600)}\n  ${expected.text.slice(0, 600)}`);
        } else if (got.status < 300) {
          await fillTraps(kysely as AnyKysely);
        }
      }
      expect(wrong.join('\n')).to.equal('');
      const told = [...counts].sort().map(([kind, count]) => `${kind}: ${count}`);
      if (isCounted) console.info(`      ${told.join(', ')}`);
    });
  });
}
