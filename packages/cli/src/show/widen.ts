import type { LoadPlan } from 'gribo';
import { addOrder, type EntityPlan, ordering } from 'gribo/kit';

/** The same plan with every column of every entity it touches: the rows as they are stored. */
export const widen = (plan: LoadPlan, entity: EntityPlan): LoadPlan => ({
  ...addOrder(
    plan,
    entity,
    entity.columns.map((column) => ordering(column)),
  ),
  links: plan.links.map((loading) => ({ ...loading, plan: widen(loading.plan, loading.link.target) })),
});
