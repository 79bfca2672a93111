import type { EntityPlan } from 'gribo/kit';

type Row = Readonly<Record<string, unknown>>;

/** A row's key as it is typed. */
export const keyOf = (entity: EntityPlan, row: object): string =>
  entity.key.map((name) => String((row as Row)[name])).join(',');

/** What people call a row: its name or code, where it has one. */
export const labelOf = (entity: EntityPlan, row: object): string => {
  const column = entity.columns.find(
    ({ name, sealed }) => sealed === null && /^(?:name|title|code|label)$/.test(name),
  );
  const key = keyOf(entity, row);
  return column === undefined ? key : `${key} · ${String((row as Row)[column.name])}`;
};
