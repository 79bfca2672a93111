import { freeze } from '../util/freeze.js';
import type { BodyPlan } from './declared.js';
import { walkMembers } from './walk-members.js';

const known = new WeakMap<BodyPlan, readonly string[]>();

/**
 * The audiences that the members of a body depend on, each once. Where there are none, the body
 * is the same for everybody.
 *
 * @example
 * audiencesOf(VesselDetail.plan) // => []
 */
export const audiencesOf = (body: BodyPlan): readonly string[] => {
  let found = known.get(body);
  if (found === undefined) {
    const names = new Set<string>();
    walkMembers(body, {
      audiences: (some) => {
        for (const name of some) names.add(name);
      },
    });
    found = freeze([...names]);
    known.set(body, found);
  }
  return found;
};
