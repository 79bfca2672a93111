import type { ColumnType } from '../../plan/column-type.js';
import type { SettledValue } from '../../plan/condition.js';
import type { ResolvedField, ResolvedShape } from '../../plan/resolved.js';
import { valueType } from '../../plan/value-type.js';

/** A column of a flat table: its dotted name, the way to its value, and its type; null: rows of a list. */
export interface FlatColumn {
  readonly name: string;
  readonly path: readonly string[];
  readonly type: ColumnType | null;
}

const columnsOf = (field: ResolvedField, above: readonly string[]): FlatColumn[] => {
  const path = [...above, field.name];
  const { node } = field;
  switch (node.kind) {
    case 'group':
      return node.fields.flatMap((inner) => columnsOf(inner, path));
    case 'nested':
    case 'first':
      return node.shape.fields.flatMap((inner) => columnsOf(inner, path));
    case 'nestedList':
      return [{ name: path.join('.'), path, type: null }];
    default:
      return [{ name: path.join('.'), path, type: valueType(node satisfies SettledValue) }];
  }
};

/** The columns of a table whose rows are of a shape: groups and to-one rows become dotted names. */
export const flatColumns = (shape: ResolvedShape): readonly FlatColumn[] =>
  shape.fields.flatMap((field) => columnsOf(field, []));

/** The value at a path of a row; null where there is none. */
export const flatValue = (row: unknown, path: readonly string[]): unknown => {
  let at = row;
  for (const name of path) {
    if (typeof at !== 'object' || at === null || !Object.hasOwn(at, name)) return null;
    at = (at as Record<string, unknown>)[name];
  }
  return at ?? null;
};
