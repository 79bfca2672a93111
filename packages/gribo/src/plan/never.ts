import { freeze } from '../util/freeze.js';
import type { StoreCondition } from './condition.js';

/** What holds for no row: of no conditions, none does. */
export const NEVER: StoreCondition = freeze({ kind: 'any', of: freeze([]) });
