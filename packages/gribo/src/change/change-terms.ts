import type { StampGiven } from '../plan/entity-plan.js';
import type { ChangeRules } from './change-rules.js';

/** Whose change it is: what it may change, and what stamped columns are set to. */
export interface ChangeTerms {
  /** Left out: everything may be changed. */
  readonly rules?: ChangeRules | undefined;
  /** Left out: nobody in particular, now. */
  readonly stamp?: StampGiven | undefined;
}
