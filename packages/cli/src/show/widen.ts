import type { LoadPlan } from 'gribo';
import type { EntityPlan } from 'gribo/kit';

/** The same plan with every column of every entity it touches: the rows as they are stored. */
export const widen = (plan: LoadPlan, entity: EntityPlan): LoadPlan => ({
  ...plan,
  columns: entity.columns.map(({ name, stored, type, coded }) => ({ name, stored, type, coded })),
  links: plan.links.map((loading) => ({ ...loading, plan: widen(loading.plan, loading.link.target) })),
});
