import { GriboError } from '../errors/gribo-error.js';
import type { FactPlan } from '../plan/condition.js';
import { NOW } from '../plan/now.js';
import { clock } from '../util/clock.js';
import { kindOfValue } from '../util/describe-value.js';
import { nameOfType, valueKind } from './kinds.js';

/** What is known of whoever a response is for, when rows are written or loaded. */
export interface GivenFacts {
  /** Facts by their names, as `callerOf` declares them. */
  readonly caller?: object | null;
  /** The moment that `now` stands for. Default: this one. */
  readonly now?: Date;
}

/**
 * The facts that something needs, each looked at like the value of a row.
 *
 * @throws {GriboError} `CALLER` where one is missing, or is not of its type
 * @example
 * factsFor([], {}) // => {}
 */
export const factsFor = (
  wanted: readonly FactPlan[],
  { caller, now = clock() }: GivenFacts = {},
): Readonly<Record<string, unknown>> =>
  Object.fromEntries(
    wanted.map(({ name, type, nullable }) => {
      const value = name === NOW ? now : (caller as Record<string, unknown> | null | undefined)?.[name];
      const fact = value === null && nullable ? null : valueKind(type).accept(value ?? undefined, type);
      if (fact !== undefined) return [name, fact];
      const message = `expected ${nameOfType(type)} as the caller's ${name}, got ${kindOfValue(value)}`;
      throw new GriboError('CALLER', `caller.${name}`, message);
    }),
  );
