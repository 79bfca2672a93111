import type { Served } from '@gribo/http';
import type { AnyKysely } from '@gribo/sql';
import { amending, api, collection, input, list, optional, shape } from 'gribo';
import { sql } from 'kysely';
import { stock } from '../../../packages/gribo/src/testing/stock.js';

const Vessel = shape(stock.vessel, ({ id, name, weight }) => ({ id, name, weight }));
const Operator = shape(stock.operator, (o) => ({ id: o.id, name: o.name, fleet: Vessel(o.vessels) }));
const NewVessel = input(stock.vessel, (v) => ({
  name: v.name,
  kind: v.kind,
  builtYear: v.builtYear,
  tonnage: v.tonnage,
  draught: v.draught,
  active: v.active,
  weight: v.weight,
}));
const NewOperator = input(stock.operator, (o) => ({ name: o.name, fleet: optional(NewVessel(o.vessels)) }));

/** Operators with their fleets, made in one piece, and vessels whose weight is a counter. */
export const harbourOffice = api({
  title: 'Ledger',
  version: '1',
  endpoints: {
    operators: collection('/operators', stock.operator, {
      list: list(Operator),
      read: Operator,
      create: { takes: NewOperator, returns: Operator },
      amend: { takes: amending(NewOperator, (members) => members), returns: Operator },
      remove: true,
    }),
    vessels: collection('/vessels', stock.vessel, {
      read: Vessel,
      amend: { takes: amending(NewVessel, (members) => members), returns: Vessel },
    }),
  },
});

const vessel = (name: string) => ({
  name,
  kind: 'tug',
  builtYear: 2000,
  tonnage: '10.0',
  draught: 2,
  active: true,
  weight: '0',
});

/** What a client was told. */
export interface Told {
  readonly status: number;
  readonly text: string;
  readonly tag: string | null;
}

export type Ask = (
  method: string,
  path: string,
  body?: unknown,
  headers?: Record<string, string>,
) => Promise<Told>;

/** Asks a handler. */
export const asking =
  (handle: Served): Ask =>
  async (method, path, body, headers = {}) => {
    const sent = body === undefined ? {} : { body: JSON.stringify(body) };
    const type = body === undefined ? {} : { 'content-type': 'application/json' };
    const asked = new Request(`http://l.test${path}`, { method, headers: { ...type, ...headers }, ...sent });
    const answer = await handle(asked);
    return { status: answer.status, text: await answer.text(), tag: answer.headers.get('etag') };
  };

/** What became of a request, so far as its client knows. */
type Fate = 'done' | 'undone' | 'unknown';

const fateOf = ({ status, text }: Told): Fate => {
  if (status < 300) return 'done';
  if (status < 500) return 'undone';
  return status === 503 && text.includes('nothing was changed') ? 'undone' : 'unknown';
};

/** What clients have done, to be compared with what is stored. */
export class Ledger {
  readonly #fates = new Map<string, { fate: Fate; readonly size: number }>();
  readonly #counts = new Map<number, { readonly first: bigint; done: number; unknown: number }>();
  readonly #name = `Ledger ${crypto.randomUUID().slice(0, 8)}`;
  readonly statuses = new Map<number, number>();
  readonly failures: string[] = [];
  #made = 0;

  note({ status, text }: Told): void {
    this.statuses.set(status, (this.statuses.get(status) ?? 0) + 1);
    if (status >= 500 && status !== 503) this.failures.push(text);
  }

  /** Asks; a connection that breaks is an answer too. */
  async #ask(ask: Ask, ...given: Parameters<Ask>): Promise<Told> {
    const told = await ask(...given).catch((): Told => ({ status: 503, text: 'no answer', tag: null }));
    this.note(told);
    return told;
  }

  /** Makes an operator with its fleet. @param insists asks again under the same key until it knows */
  async create(ask: Ask, insists = false): Promise<Fate> {
    const name = `${this.#name} ${++this.#made}`;
    const size = 1 + (this.#made % 4);
    const fleet = Array.from({ length: size }, (_, i) => vessel(`${name}.${i}`));
    const headers: Record<string, string> = insists ? { 'idempotency-key': crypto.randomUUID() } : {};
    let fate: Fate = 'unknown';
    for (let tries = 0; tries < (insists ? 50 : 1) && fate !== 'done'; tries++) {
      if (tries > 0) await new Promise((resolve) => setTimeout(resolve, 50));
      fate = fateOf(await this.#ask(ask, 'POST', '/operators', { name, fleet }, headers));
      if (!insists) break;
    }
    this.#fates.set(name, { fate, size });
    return fate;
  }

  /** Adds one to a counter, where nobody else has meanwhile. */
  async count(ask: Ask, id: number): Promise<Fate> {
    const read = await this.#ask(ask, 'GET', `/vessels/${id}`, undefined, { 'cache-control': 'no-cache' });
    if (read.status !== 200) return 'undone';
    const { weight } = JSON.parse(read.text) as { weight: number | string };
    const counted = this.#counts.get(id) ?? { first: BigInt(weight), done: 0, unknown: 0 };
    this.#counts.set(id, counted);
    const match = { 'if-match': read.tag ?? '' };
    const next = String(BigInt(weight) + 1n);
    const fate = fateOf(await this.#ask(ask, 'PATCH', `/vessels/${id}`, { weight: next }, match));
    if (fate !== 'undone') counted[fate] += 1;
    return fate;
  }

  /** How often each thing became of requests that make something. */
  get tally(): Readonly<Record<Fate, number>> {
    const tally = { done: 0, undone: 0, unknown: 0 };
    for (const { fate } of this.#fates.values()) tally[fate] += 1;
    return tally;
  }

  /** Where what is stored is not what clients were told. */
  async wrong(kysely: AnyKysely): Promise<readonly string[]> {
    const { rows } = await sql<{ name: string; many: unknown }>`select o.name as name, count(v.id) as many
      from operator o left join vessel v on v.operator_id = o.id
      where o.name like ${`${this.#name} %`} group by o.name`.execute(kysely);
    const stored = new Map(rows.map(({ name, many }) => [name, Number(many)]));
    const found: string[] = [];
    for (const [name, { fate, size }] of this.#fates) {
      const there = stored.get(name);
      if (there !== undefined && there !== size) found.push(`${name}: ${there} of ${size} are stored`);
      if (there === undefined && fate === 'done') found.push(`${name}: told as done, and not there`);
      if (there !== undefined && fate === 'undone') found.push(`${name}: told as not done, and there`);
    }
    for (const name of stored.keys()) if (!this.#fates.has(name)) found.push(`${name}: nobody has made it`);
    for (const [id, { first, done, unknown }] of this.#counts) {
      const [row] = (
        await sql<{
          weight: unknown;
        }>`select cast(weight as char(20)) as weight from vessel where id = ${id}`.execute(kysely)
      ).rows;
      const weight = Number(BigInt(String(row?.weight)) - first);
      if (weight < done || weight > done + unknown)
        found.push(`vessel ${id}: ${weight} were counted, ${done} were told as done, ${unknown} not at all`);
    }
    return found;
  }
}
