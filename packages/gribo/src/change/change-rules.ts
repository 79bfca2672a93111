import type { StoreCondition } from '../plan/condition.js';

/** What a caller may do with rows of an entity, with its facts in it; null: with all of them. */
export interface ChangeRule {
  readonly see: StoreCondition | null;
  readonly change: StoreCondition | null;
  /** The rule in a sentence; null where nothing is said. */
  readonly about: string | null;
}

/** The rules of a caller, by the names of their entities. */
export type ChangeRules = ReadonlyMap<string, ChangeRule>;
