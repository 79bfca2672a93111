import { freeze } from '../util/freeze.js';
import type { EntityPlan, LinkPlan } from './entity-plan.js';

/** A link that no columns hold: what it leads to is there in the value itself. */
export const bareLink = (owner: string, name: string, kind: LinkPlan['kind'], target: EntityPlan): LinkPlan =>
  freeze({
    name,
    kind,
    owner,
    target,
    from: freeze([]),
    to: freeze([]),
    reference: 'none',
    nullable: false,
    through: null,
  });
