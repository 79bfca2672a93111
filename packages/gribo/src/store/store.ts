import type { ChangeTerms } from '../change/change-terms.js';
import type { LoadPlan } from '../load/plan-load.js';
import type { SortKey, StoreCondition } from '../plan/condition.js';

/** The value of one key column. */
export type KeyValue = string | number | bigint;

/** The key of a row: one value for each key column, in the entity's order. */
export type Key = readonly KeyValue[];

/** Which rows of an entity, in what order. Everything left out: all of them, by their key. */
export interface RowQuery {
  /** Conditions that must all hold; facts about the caller have become values. */
  readonly where?: readonly StoreCondition[];
  /** The order; rows that tie come in the order of their key. */
  readonly sort?: readonly SortKey[];
  /** So many rows at most. */
  readonly limit?: number;
  /** So many rows are left out from the start. */
  readonly offset?: number;
  /** The values of the row after which to start: those of `sort`, then the rest of the key. */
  readonly after?: readonly unknown[];
}

/** How a change is run. */
export interface ChangeOptions extends ChangeTerms {
  /** Aborted: what is not stored yet is not stored any more, and the change fails with the signal's reason. */
  readonly signal?: AbortSignal;
}

/** What must hold for a row to be changed, tested with the change in one step. */
export interface Guard extends ChangeOptions {
  /** Comparisons that must all hold; where they do not, it is as if there were no such row. */
  readonly where?: readonly StoreCondition[];
  /** Given the row as it is stored, throws where it must not be changed. */
  readonly check?: { readonly plan: LoadPlan; readonly row: (row: object) => void };
}

/** The work that a store is for: one request, as a rule. */
export interface StoreScope {
  /** Aborted: what is asked or changed is given up, and fails with the signal's reason. */
  readonly signal: AbortSignal;
  /** Is told each statement that was run, with marks in the place of its values, and how many milliseconds it took. */
  readonly ran?: (statement: string, milliseconds: number) => void;
}

/** How a transaction is run. */
export interface TransactionTerms {
  /** Asked before the work is run again, as databases ask where transactions were in each other's way: whether it can be. Default: it can. */
  readonly again?: () => boolean;
  /**
   * Whether a change in it that fails is taken back alone, so that the work may go on; otherwise the work ends there. Default: true.
   */
  readonly parts?: boolean;
  /**
   * Whether what the work reads is still so when it ends, also which rows there are: transactions that would break that are run again.
   * Otherwise each statement sees what is stored by then, as the database has it. Default: false.
   */
  readonly steady?: boolean;
}

/**
 * Where rows live. Entities go by their names, rows are objects by property names, and links
 * hold rows: what `loadPlan` names is there. What is written is a change as a reader yields it,
 * with the rows of nested inputs under the names of their links, and is done whole or not at all.
 */
export interface Store {
  /** Rows of the plan's entity, with what the plan names. */
  list(plan: LoadPlan, query?: RowQuery): Promise<readonly object[]>;
  /** The same, one after the other, for lists that need not fit into memory. */
  stream(plan: LoadPlan, query?: RowQuery): Iterable<object> | AsyncIterable<object>;
  /** How many rows there are. */
  count(entity: string, where?: readonly StoreCondition[]): Promise<number>;
  /** The row with this key; null where there is none, or a condition does not hold. */
  read(plan: LoadPlan, key: Key, where?: readonly StoreCondition[]): Promise<object | null>;
  /** Stores a new row. @returns its key @throws {ConflictError} `CONFLICT` where it does not fit the others */
  create(entity: string, change: object, options?: ChangeOptions): Promise<Key>;
  /**
   * Stores many new rows, all of them or none: batch by batch, as fast as they come and no faster.
   *
   * @returns how many there were @throws {ConflictError} `CONFLICT`, or what the source of the batches throws
   */
  createAll(
    entity: string,
    batches: AsyncIterable<readonly object[]>,
    options?: ChangeOptions,
  ): Promise<number>;
  /**
   * Sets what the change names; the rows of a nested to-many input take the place of those that
   * were there. @returns false where there is no such row @throws {ConflictError} `CONFLICT`; {RuleError} `RULE` where a row is or becomes one that the caller may not change
   */
  amend(entity: string, key: Key, change: object, guard?: Guard): Promise<boolean>;
  /** @returns false where there is no such row @throws {ConflictError} `CONFLICT` where others need it */
  remove(entity: string, key: Key, guard?: Guard): Promise<boolean>;
  /**
   * Does work in one transaction: all that it changes in the store it is given is stored, or nothing of it where it throws. In a
   * transaction that is there already, it is a part of that. Where the database asks for it, the work is run again from its start.
   *
   * @returns what the work returns @throws whatever the work throws
   */
  transaction?<T>(work: (store: Store) => Promise<T>, terms?: TransactionTerms): Promise<T>;
  /** The same store for one piece of work: what it does is given up where that is. */
  scoped?(scope: StoreScope): Store;
  /** Whether the store is there. @throws {GriboError} `UNAVAILABLE`, or what else is wrong with it */
  ping?(): Promise<void>;
  /** Lets go of what the store holds, so that the program can end. */
  close?(): Promise<void>;
}
