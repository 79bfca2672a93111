import type { FactPlan } from '../plan/condition.js';
import { NOW } from '../plan/now.js';
import { SAMPLE_TIME, sampleValue } from './kinds.js';
import { randomAt } from './random.js';

/** Made-up facts about a caller, who asks at the time that samples are of: the same each time. */
export const sampleFacts = (facts: readonly FactPlan[]): Readonly<Record<string, unknown>> =>
  Object.fromEntries(
    facts.map((fact) => {
      const { name, nullable } = fact;
      if (name === NOW) return [name, new Date(SAMPLE_TIME)];
      // There is a pattern that no text is found for.
      return [name, sampleValue(fact, 0, randomAt('caller', name)) ?? (nullable ? null : '')];
    }),
  );
