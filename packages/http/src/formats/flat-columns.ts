import type { ResolvedField, ResolvedShape } from 'gribo/kit';

/** A column of a flat table: its dotted name, and the way to its value. */
export interface FlatColumn {
  readonly name: string;
  readonly path: readonly string[];
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
    case 'column':
    case 'fact':
    case 'derived':
    case 'converted':
    case 'constant':
    case 'figure':
      return [{ name: path.join('.'), path }];
    default:
      return node satisfies never;
  }
};

/** The columns of a table whose rows are of a shape: groups and to-one rows become dotted names. */
export const flatColumns = (shape: ResolvedShape): readonly FlatColumn[] =>
  shape.fields.flatMap((field) => columnsOf(field, []));

/** The value at a path; null where there is none. */
export const flatValue = (row: unknown, path: readonly string[]): unknown => {
  let at = row;
  for (const name of path) {
    if (typeof at !== 'object' || at === null) return null;
    at = (at as Record<string, unknown>)[name];
  }
  return at ?? null;
};
