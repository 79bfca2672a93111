import { GriboError, type Key, type Store } from 'gribo';
import type { ApiPlan, EndpointPlan } from 'gribo/kit';
import { isReading } from '../message/asked.js';
import { checkParent } from '../operations/check-parent.js';
import type { Exchange } from '../operations/exchange.js';
import { operate, operationOf } from '../operations/operate.js';
import type { Outcome } from '../operations/outcome.js';
import { rowPlan } from '../operations/row-plan.js';
import { notFound } from '../problems/not-found.js';
import { Problem, type ProblemDetails } from '../problems/problem.js';
import { keyOf } from '../request/key.js';
import { inBatches, isRows, oneByOne } from '../request/read-rows.js';
import { HandlerStore } from './handler-store.js';
import { HandlerTransaction } from './handler-transaction.js';
import type { AnyHandler, ProceedOptions, TransactionOptions } from './handlers.js';
import { loadFor, whereOf } from './load.js';
import { withinRules } from './within-rules.js';

/** What a handler hands over, as the operation takes it. */
const takenAs = ({ takesMany }: EndpointPlan, other: object): object =>
  takesMany ? inBatches(other as Iterable<object> | AsyncIterable<object>) : other;

/** Makes the problems of an endpoint's own, by their codes. */
const problemsAt =
  ({ name, problems }: EndpointPlan) =>
  (code: string, details: Pick<ProblemDetails, 'detail' | 'members' | 'cause'> = {}): Problem => {
    const own = problems.find((one) => one.code === code);
    if (own === undefined)
      throw new GriboError('UNKNOWN', 'problem', `${name} declares no problem "${code}"`);
    return new Problem(own.status, { ...details, code });
  };

/** One request that a handler answers. */
export class Handling {
  readonly #exchange: Exchange;
  readonly #change: object | null;
  readonly #plan: ApiPlan;
  readonly #rows: 'check' | 'trust';
  readonly #store: HandlerStore;
  readonly #transaction: HandlerTransaction;
  /** What the operation led to, where the handler went on to it. */
  #done: Outcome | null = null;

  constructor(exchange: Exchange, change: object | null, plan: ApiPlan, rows: 'check' | 'trust') {
    this.#exchange = exchange;
    this.#change = change;
    this.#plan = plan;
    this.#rows = rows;
    this.#store = new HandlerStore(exchange.store, exchange.signal, exchange.progress);
    this.#transaction = new HandlerTransaction(this.#store, exchange.taken, isReading(exchange.asked));
  }

  /** @throws whatever the handler throws; {Problem} 404 where it gives nothing and a body is sent */
  async run(handler: AnyHandler): Promise<Outcome> {
    // A child collection is there where its parent is, whatever a handler makes of it.
    await checkParent(this.#exchange);
    const row = await this.#named();
    // What it is given is of its endpoint's types: `Handlers` says so.
    const given = await handler(this.#context(row) as unknown as Parameters<AnyHandler>[0]);
    const done = this.#done;
    if (done !== null && (done.data === given || given === undefined)) return done;
    const { endpoint, audience } = this.#exchange;
    const data =
      this.#rows === 'trust' ? given : await withinRules(this.#plan, endpoint, audience, this.#store, given);
    if (endpoint.returns !== null && (data === null || data === undefined)) throw notFound();
    return { data: data ?? null, created: this.#createdBy(data), page: null };
  }

  /** The row that the path of an endpoint of one's own names. @throws {Problem} 404 where the caller sees none */
  async #named(): Promise<object | null> {
    const { endpoint, key, store } = this.#exchange;
    if (!endpoint.looksUp || key === null) return null;
    const row = await store.read(rowPlan(endpoint.entity, endpoint.entity.columns), key);
    if (row === null) throw notFound();
    return row;
  }

  #context(row: object | null): object {
    const { asked, caller, audience, endpoint, parameters, key, query, files, signal } = this.#exchange;
    const store = this.#store;
    const change = this.#change;
    return {
      request: asked.request,
      caller: { ...caller.given.caller, audience },
      edition: this.#plan.edition?.name ?? null,
      parameters,
      input: isRows(change) ? oneByOne(change) : change,
      files,
      query: query.values,
      filters: query.filters,
      row,
      key,
      store,
      load: loadFor(this.#exchange, store),
      now: caller.given.now,
      signal,
      problem: problemsAt(endpoint),
      transaction: <T>(work: (within: Store) => Promise<T>, options?: TransactionOptions): Promise<T> =>
        this.#transaction.run(work, options),
      proceed: (...given: readonly (object | undefined)[]) => this.#proceed(given),
    };
  }

  async #proceed(given: readonly (object | undefined)[]): Promise<unknown> {
    const exchange = this.#exchange;
    const { endpoint, signal } = exchange;
    signal.throwIfAborted();
    // What takes nothing has no change to be given.
    const [other, options = {}] = endpoint.takes === null ? [undefined, given[0]] : given;
    const added = whereOf(endpoint.entity, (options as ProceedOptions).where ?? {});
    if (added.length > 0 && operationOf(endpoint) === 'create')
      throw new GriboError('MISUSE', 'proceed', 'where is about rows that are there, and create makes one');
    const within = {
      ...exchange,
      hasParent: true,
      where: [...exchange.where, ...added],
      store: this.#store.operating,
    };
    this.#done = await operate(within, other === undefined ? this.#change : takenAs(endpoint, other));
    return this.#done.data;
  }

  #createdBy(data: unknown): Key | null {
    const { endpoint } = this.#exchange;
    const isRow = endpoint.operation === 'create' && typeof data === 'object' && data !== null;
    return isRow ? keyOf(endpoint.entity, data) : null;
  }
}
