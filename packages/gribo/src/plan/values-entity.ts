import { freeze } from '../util/freeze.js';
import { bareLink } from './bare-link.js';
import type { ColumnPlan, EntityPlan, LinkPlan } from './entity-plan.js';

/** What values that stand in no table are columns of: described as an entity, so that they are read like any other. */
export const valuesEntity = (columns: readonly ColumnPlan[]): EntityPlan =>
  freeze({
    kind: 'values',
    name: 'values',
    table: '',
    columns: freeze([...columns]),
    readOnly: true,
    key: freeze([]),
  });

/** What an endpoint is about that is about no entity. */
export const NO_ENTITY: EntityPlan = valuesEntity([]);

/** The link from values to values inside them. */
export const valuesLink = (name: string, kind: LinkPlan['kind'], target: EntityPlan): LinkPlan =>
  bareLink('values', name, kind, target);
