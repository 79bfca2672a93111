import type { ChangeRules } from '../change/change-rules.js';
import { GriboError } from '../errors/gribo-error.js';
import type { LoadPlan } from '../load/plan-load.js';
import type { ApiPlan } from '../plan/api-plan.js';
import type { FactPlan, SortKey, StoreCondition } from '../plan/condition.js';
import type { StampGiven } from '../plan/entity-plan.js';
import { rulesFor, type SettledRules } from '../resolve/rules-for.js';
import type { ChangeOptions, Guard, Key, RowQuery, Store, TransactionTerms } from '../store/store.js';
import { clock } from '../util/clock.js';
import { factsFor, type GivenFacts } from '../values/facts-for.js';
import { bindCondition, bindConditions, bindLoad, bindOrder, type ValueOfFact } from './bind.js';
import { type Restricted, restrictedBy } from './restrict.js';

/** Whom a store is for: an audience of the API, and facts by name. */
export interface CallerGiven {
  readonly audience?: string | null;
  readonly [fact: string]: unknown;
}

/** A store as one caller sees it. */
export interface SeenStore extends Store {
  transaction<T>(work: (store: SeenStore) => Promise<T>, terms?: TransactionTerms): Promise<T>;
  /** Whether it has transactions. */
  readonly transacts: boolean;
  /** An order with the caller's facts in it, to look at rows that this store has loaded: what cursors are made by. */
  order(sort: readonly SortKey[]): readonly SortKey[];
}

/** A store within the row rules of a caller, with its facts. */
class StoreWithin implements SeenStore {
  readonly #store: Store;
  readonly #rules: SettledRules;
  readonly #restricted: Restricted;
  #changes: ChangeRules | null = null;
  readonly #known: ValueOfFact;
  readonly #stamp: StampGiven;

  constructor(store: Store, rules: SettledRules, known: ValueOfFact, stamp: StampGiven) {
    this.#stamp = stamp;
    this.#store = store;
    this.#rules = rules;
    this.#restricted = restrictedBy(rules);
    this.#known = known;
  }

  list(plan: LoadPlan, query?: RowQuery): Promise<readonly object[]> {
    return this.#store.list(this.#load(plan), this.#query(plan.entity, query));
  }

  stream(plan: LoadPlan, query?: RowQuery): Iterable<object> | AsyncIterable<object> {
    return this.#store.stream(this.#load(plan), this.#query(plan.entity, query));
  }

  count(entity: string, where?: readonly StoreCondition[]): Promise<number> {
    return this.#store.count(entity, this.#where(entity, where));
  }

  read(plan: LoadPlan, key: Key, where?: readonly StoreCondition[]): Promise<object | null> {
    return this.#store.read(this.#load(plan), key, this.#where(plan.entity, where));
  }

  create(entity: string, change: object, options?: ChangeOptions): Promise<Key> {
    return this.#store.create(entity, change, this.#within(options));
  }

  createAll(
    entity: string,
    batches: AsyncIterable<readonly object[]>,
    options?: ChangeOptions,
  ): Promise<number> {
    return this.#store.createAll(entity, batches, this.#within(options));
  }

  amend(entity: string, key: Key, change: object, guard?: Guard): Promise<boolean> {
    return this.#store.amend(entity, key, change, this.#guard(entity, guard));
  }

  remove(entity: string, key: Key, guard?: Guard): Promise<boolean> {
    return this.#store.remove(entity, key, this.#guard(entity, guard));
  }

  async transaction<T>(work: (store: SeenStore) => Promise<T>, terms?: TransactionTerms): Promise<T> {
    const store = this.#store;
    if (store.transaction === undefined)
      throw new GriboError(
        'MISUSE',
        'transaction',
        'this store has no transactions: give it a method `transaction`',
      );
    const within = (inner: Store): SeenStore => new StoreWithin(inner, this.#rules, this.#known, this.#stamp);
    return store.transaction((inner) => work(within(inner)), terms);
  }

  get transacts(): boolean {
    return this.#store.transaction !== undefined;
  }

  order(sort: readonly SortKey[]): readonly SortKey[] {
    return bindOrder(sort, this.#known);
  }

  #load(plan: LoadPlan): LoadPlan {
    return bindLoad(this.#restricted.load(plan), this.#known);
  }

  #where(entity: string, where: readonly StoreCondition[] = []): readonly StoreCondition[] {
    return bindConditions(this.#restricted.where(entity, where), this.#known);
  }

  #query(entity: string, { where, sort, ...query }: RowQuery = {}): RowQuery {
    const order = sort === undefined ? {} : { sort: this.order(this.#restricted.order(sort)) };
    return { ...query, ...order, where: this.#where(entity, where) };
  }

  #within(options: ChangeOptions = {}): ChangeOptions {
    return { ...options, rules: this.#bound(), stamp: this.#stamp };
  }

  /** The rules with this caller's facts. */
  #bound(): ChangeRules {
    this.#changes ??= new Map(
      [...this.#rules].map(([name, { see, change, about }]) => [
        name,
        { see: this.#bind(see), change: this.#bind(change), about },
      ]),
    );
    return this.#changes;
  }

  #bind(condition: StoreCondition | null): StoreCondition | null {
    return condition === null ? null : bindCondition(condition, this.#known);
  }

  #guard(entity: string, { where, check, ...guard }: Guard = {}): Guard {
    const checked = check === undefined ? {} : { check: { ...check, plan: this.#load(check.plan) } };
    return { ...this.#within(guard), ...checked, where: this.#where(entity, where) };
  }
}

/** Gives facts one by one, each looked at when it is needed. */
const factsOf = (given: GivenFacts): ValueOfFact => {
  const values = new Map<FactPlan, unknown>();
  return (fact) => {
    if (!values.has(fact)) values.set(fact, factsFor([fact], given)[fact.name]);
    return values.get(fact);
  };
};

/**
 * A store as one caller of an API sees it: what its row rules hide is not there, and what it may not change is refused.
 *
 * @param store where the rows are
 * @param api the API, with its `rows` and its `caller`
 * @param caller the `audience`, and facts by name; null: nobody in particular
 * @param now the moment that `now` stands for. Default: this one
 * @returns a store; what it is asked throws `CALLER` where a fact is missing
 * @example
 * const mine = storeFor(memoryStore(db), harbour, { audience: 'agent', operatorId: 7 });
 */
export const storeFor = (
  store: Store,
  api: { readonly plan: ApiPlan },
  caller: CallerGiven | null,
  now: Date = clock(),
): SeenStore => {
  const stamp = { caller: caller ?? {}, now };
  return new StoreWithin(
    store,
    rulesFor(api.plan, caller?.audience ?? null),
    factsOf({ caller, now }),
    stamp,
  );
};
