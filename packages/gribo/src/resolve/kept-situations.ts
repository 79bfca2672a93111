import type { BodyPlan } from '../plan/declared.js';
import { BoundedCache } from '../util/bounded-cache.js';
import { keptBy } from '../util/kept-by.js';

/** The most situations that are kept for one body. A caller chooses `asked` and `fields`. */
const MOST = 64;

/** What is made of a body, kept for the situations used last: by the body, then by a text that says which situation. */
export const keptSituations = <V>(): ((plan: BodyPlan) => BoundedCache<V>) =>
  keptBy(() => new BoundedCache<V>(MOST));
