import type { Key, SeenStore, Situation } from 'gribo';
import type { EndpointPlan, InputPlan, StoreCondition, Values } from 'gribo/kit';
import type { Asked } from '../message/asked.js';
import type { Caller } from '../request/caller.js';
import type { Query } from '../request/query.js';
import type { TakenFiles } from '../request/read-files.js';
import type { Settings } from '../settings/settings.js';
import type { Progress } from './progress.js';

/** One request, with everything that was read from it before the store is asked. */
export interface Exchange {
  readonly asked: Asked;
  readonly endpoint: EndpointPlan;
  /** The endpoint that reads one row of the same collection; null where there is none. */
  readonly sibling: EndpointPlan | null;
  readonly parameters: Readonly<Record<string, string>>;
  readonly query: Query;
  readonly caller: Caller;
  readonly audience: string | null;
  /** The endpoint's input, as it is for this audience; null where it takes none. */
  readonly takes: InputPlan | null;
  /** The files that came; null where the endpoint takes none. */
  readonly files: TakenFiles | null;
  readonly situation: Situation;
  readonly store: SeenStore;
  readonly settings: Settings;
  readonly progress: Progress;
  /** How often something was taken of rows or files that come once. */
  readonly taken: () => number;
  /** Aborted where the time for an answer is up. */
  readonly signal: AbortSignal;
  /** The row that the path names; null where it names none. */
  readonly key: Key | null;
  /** What must hold of the row or the rows: that they are under the parent that the path names, and what a handler adds. */
  readonly where: readonly StoreCondition[];
  /** Whether it is known already that the parent is there. */
  readonly hasParent: boolean;
  /** The child's columns that hold the parent's key, with its values. */
  readonly parentValues: Values;
}
