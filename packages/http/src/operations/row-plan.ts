import type { LoadPlan } from 'gribo';
import type { ColumnPlan, EntityPlan } from 'gribo/kit';

/** Loads these columns of one entity's rows, and follows no link. */
export const rowPlan = ({ name, table, key }: EntityPlan, columns: readonly ColumnPlan[]): LoadPlan => ({
  entity: name,
  table,
  key,
  columns: columns.map(({ name: property, stored, type, coded }) => ({
    name: property,
    stored,
    type,
    coded,
  })),
  links: [],
  figures: [],
});
