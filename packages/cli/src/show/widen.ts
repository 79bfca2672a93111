import type { LoadPlan } from 'gribo';
import { addColumns, type EntityPlan } from 'gribo/kit';

/** The same plan with every column of every entity it touches: the rows as they are stored. */
export const widen = (plan: LoadPlan, entity: EntityPlan): LoadPlan => ({
  ...addColumns(
    plan,
    entity,
    entity.columns.map(({ name }) => name),
  ),
  links: plan.links.map((loading) => ({ ...loading, plan: widen(loading.plan, loading.link.target) })),
});
