import type { ApiPlan } from '../plan/api-plan.js';
import { answers } from '../plan/audiences-at.js';
import type { ConditionNode } from '../plan/condition.js';
import { leavesOf } from '../plan/leaves-of.js';
import { NOW } from '../plan/now.js';
import { resolveBody } from '../resolve/resolve-body.js';
import { rulesFor } from '../resolve/rules-for.js';

/** The facts that a condition compares with, and those of the rows that it looks for. */
const factsIn = (condition: ConditionNode): readonly string[] =>
  leavesOf(condition).flatMap((leaf) => {
    if (leaf.kind === 'compares') return leaf.right.kind === 'fact' ? [leaf.right.fact.name] : [];
    return leaf.kind === 'thereIs' ? leaf.selection.where.flatMap(factsIn) : [];
  });

/**
 * The facts about a caller without which endpoints cannot answer one of an audience: by the names of the endpoints, and
 * under the names of entities those that row rules need.
 *
 * @param api the API
 * @param audience whom it answers; null: callers of no audience
 * @returns names of facts, by where they are needed
 * @example
 * [...factsWanted(harbour, null).keys()].length
 */
export const factsWanted = (
  { plan }: { readonly plan: ApiPlan },
  audience: string | null,
): ReadonlyMap<string, readonly string[]> => {
  const wanted = new Map<string, readonly string[]>();
  const want = (place: string, names: readonly string[]): void => {
    const facts = [...new Set(names)].filter((name) => name !== NOW);
    if (facts.length > 0) wanted.set(place, facts);
  };
  for (const endpoint of plan.endpoints) {
    const { name, returns } = endpoint;
    if (returns === null || !answers(endpoint, audience)) continue;
    const { facts } = resolveBody(returns, { endpoint: name, audience }).body;
    want(
      name,
      facts.map((fact) => fact.name),
    );
  }
  for (const { entity, see, change } of rulesFor(plan, audience).values())
    want(
      `rows of ${entity.name}`,
      [see, change].flatMap((condition) => (condition === null ? [] : factsIn(condition))),
    );
  return wanted;
};
