import type { EntityPlan, LoadColumn, LoadPlan } from 'gribo';

const columnOf = ({ name, stored, type }: EntityPlan['columns'][number]): LoadColumn => ({
  name,
  stored,
  type,
});

/** The same plan with every column of every entity it touches: the rows as they are stored. */
export const widen = (plan: LoadPlan, entity: EntityPlan): LoadPlan => ({
  ...plan,
  columns: entity.columns.map(columnOf),
  links: plan.links.map((loading) => ({ ...loading, plan: widen(loading.plan, loading.link.target) })),
});
