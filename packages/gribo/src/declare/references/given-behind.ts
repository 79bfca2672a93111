import type { ConditionNode } from '../../plan/condition.js';

/** What `given` was called with: what it makes of it depends on whether a shape or an input has the member. */
export interface GivenCall {
  readonly condition: ConditionNode;
  readonly member: unknown;
  /** What is there where it does not hold; undefined: nothing. */
  readonly otherwise: unknown;
}

const calls = new WeakMap<object, GivenCall>();

/** Notes with what a member was made. */
export const noteGiven = <T>(made: T, call: GivenCall): T => {
  if (typeof made === 'object' && made !== null) calls.set(made, call);
  return made;
};

/** What `given` was called with to make a member; null for any other. */
export const givenBehind = (value: unknown): GivenCall | null =>
  typeof value === 'object' && value !== null ? (calls.get(value) ?? null) : null;
