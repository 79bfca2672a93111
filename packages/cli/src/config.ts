import type { Format } from '@gribo/http';
import type { Api, BoundEntity, Store } from 'gribo';

/** What `gribo.config.ts` exports as its default. */
export interface GriboConfig {
  readonly api: Api<unknown>;
  /** The store, or a function that opens it; it is called only when rows are needed. */
  readonly store: Store | (() => Store | Promise<Store>);
  /** The formats that the API is served in, the preferred one first. Default: those of `@gribo/http`. */
  readonly formats?: readonly Format[];
  /** The model, for `gribo draft`. */
  readonly model?: Readonly<Record<string, BoundEntity>>;
  /** What else `gribo play` has at hand, by name: the model, shapes. */
  readonly names?: Readonly<Record<string, unknown>>;
}
