import type { EntityPlan, LinkPlan } from './entity-plan.js';

/** An entity with its links, as a model has it. */
export interface LinkedEntity {
  readonly entity: EntityPlan;
  readonly links: ReadonlyMap<string, LinkPlan>;
}

/** A model as stores and samples take it: its entities by name. */
export type LinkedEntities = Readonly<Record<string, LinkedEntity>>;
