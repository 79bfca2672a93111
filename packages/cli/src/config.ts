import type { Api, BoundEntity, LoadPlan, SortKey } from 'gribo';

/** A value of a key column. */
export type KeyValue = string | number | bigint;

/** Which rows of an entity are listed. */
export interface Listing {
  readonly limit: number;
  /** The order; empty: by the key. */
  readonly sort: readonly SortKey[];
  /** Stored columns and the values they have: the rows of one parent. */
  readonly where: readonly { readonly stored: string; readonly value: KeyValue }[];
}

/** Where the rows are that the commands show. */
export interface Store {
  /** Rows of the plan's entity, with what the plan names. */
  list(plan: LoadPlan, listing: Listing): Promise<readonly object[]>;
  /** How many rows there are, whatever the limit. */
  count(plan: LoadPlan, where: Listing['where']): Promise<number>;
  /** The row with this key, its columns in the plan's order; null where there is none. */
  read(plan: LoadPlan, key: readonly KeyValue[]): Promise<object | null>;
  /** Lets go of what the store holds, so that the program can end. */
  close?(): Promise<void>;
}

/** What `gribo.config.ts` exports as its default. */
export interface GriboConfig {
  readonly api: Api<unknown>;
  /** The store, or a function that opens it; it is called only when rows are needed. */
  readonly store: Store | (() => Store | Promise<Store>);
  /** The model, for `gribo draft`. */
  readonly model?: Readonly<Record<string, BoundEntity>>;
  /** What else `gribo play` has at hand, by name: the model, shapes. */
  readonly names?: Readonly<Record<string, unknown>>;
}
