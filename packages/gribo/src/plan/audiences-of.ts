import { freeze } from '../util/freeze.js';
import { keptBy } from '../util/kept-by.js';
import type { BodyPlan } from './declared.js';
import { walkMembers } from './walk-members.js';

/**
 * The audiences that the members of a body depend on, each once. Where there are none, the body
 * is the same for everybody.
 *
 * @example
 * audiencesOf(VesselDetail.plan) // => []
 */
export const audiencesOf: (body: BodyPlan) => readonly string[] = keptBy((body: BodyPlan) => {
  const names = new Set<string>();
  walkMembers(body, {
    audiences: (some) => {
      for (const name of some) names.add(name);
    },
  });
  return freeze([...names]);
});
