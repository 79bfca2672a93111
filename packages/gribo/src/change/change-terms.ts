import type { StampGiven } from '../plan/entity-plan.js';
import { clock } from '../util/clock.js';
import type { ChangeRules } from './change-rules.js';

/** Whose change it is: what it may change, and what stamped columns are set to. */
export interface ChangeTerms {
  /** Left out: everything may be changed. */
  readonly rules?: ChangeRules | undefined;
  /** Left out: nobody in particular, now. */
  readonly stamp?: StampGiven | undefined;
}

/**
 * Terms that say when the change is: a store asks for it once, for all that the change does.
 *
 * @param now the clock, for changes whose terms name no moment
 * @example
 * stampedTerms({}, () => new Date(0)).stamp.now.getTime() // => 0
 */
export const stampedTerms = <T extends ChangeTerms>(
  terms: T,
  now: () => Date = clock,
): T & { readonly stamp: StampGiven } => ({
  ...terms,
  stamp: terms.stamp ?? { caller: {}, now: now() },
});
