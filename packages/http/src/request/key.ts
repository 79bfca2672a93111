import type { Key } from 'gribo';
import {
  type ColumnPlan,
  comparison,
  type EntityPlan,
  type KeyValue,
  type StoreCondition,
  valueFromText,
} from 'gribo/kit';

const columnOf = (entity: EntityPlan, name: string): ColumnPlan | undefined =>
  entity.columns.find((column) => column.name === name);

/** Reads values that name a row from texts, one for each of these columns; null where one of them is no such value. */
export const valuesFromTexts = (
  entity: EntityPlan,
  names: readonly string[],
  texts: readonly (string | undefined)[],
): Key | null => {
  const values = names.map((name, i) => {
    const column = columnOf(entity, name);
    const text = texts[i];
    const got = column === undefined || text === undefined ? null : valueFromText(column, text);
    return got?.ok === true ? (got.value as KeyValue) : null;
  });
  return values.some((value) => value === null) ? null : (values as KeyValue[]);
};

/** The comparisons that one row of these values passes. */
export const equalTo = (
  entity: EntityPlan,
  names: readonly string[],
  values: readonly unknown[],
): readonly StoreCondition[] =>
  names.flatMap((name, i) => {
    const column = columnOf(entity, name);
    return column === undefined ? [] : [comparison(column, 'equals', values[i])];
  });

/** The key of a loaded row. */
export const keyOf = (entity: EntityPlan, row: object): Key =>
  entity.key.map((name) => (row as Record<string, KeyValue>)[name] ?? '');
