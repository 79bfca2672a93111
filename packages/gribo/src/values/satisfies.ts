import { GriboError } from '../errors/gribo-error.js';
import type { ColumnNode, SortKey, StoreCondition } from '../plan/condition.js';
import type { LinkPlan } from '../plan/entity-plan.js';

/** A stored row: its columns and, under the names of its links, rows. */
type StoredRow = Readonly<Record<string, unknown>>;

const followed = (row: StoredRow, path: readonly LinkPlan[]): StoredRow | null => {
  let at: StoredRow | null = row;
  for (const link of path) {
    if (at === null) return null;
    // A way that no model names is found by its columns.
    const next: unknown = link.name in at ? at[link.name] : pairsBehind(at, link, true)[0]?.[0];
    at = (next ?? null) as StoredRow | null;
  }
  return at;
};

/** Under this name a stored row gives the rows behind a many-to-many link with those in the middle. */
export const PAIRS: unique symbol = Symbol('pairs');

type Pair = readonly [StoredRow, StoredRow | null];

interface PairedRow {
  readonly [PAIRS]: (link: LinkPlan) => readonly Pair[];
}

/** The rows behind a to-many link; those in the middle only where they are asked for. */
const pairsBehind = (row: StoredRow | null, link: LinkPlan, withMiddle: boolean): readonly Pair[] => {
  if (row === null) return [];
  if (withMiddle) return (row as unknown as PairedRow)[PAIRS](link);
  return ((row[link.name] ?? []) as readonly StoredRow[]).map((other) => [other, null] as const);
};

/** The value of a column of a stored row, or of one behind its links: null where there is none. */
export const storedValue = (row: StoredRow, { path, column }: Omit<ColumnNode, 'kind'>): unknown =>
  followed(row, path)?.[column.name] ?? null;

/** What a stored row is put in order by: null where the value is not shown. */
export const orderedValue = (key: SortKey, row: StoredRow): unknown =>
  key.shown === null || satisfies(key.shown, row) ? storedValue(row, key) : null;

/** Whether a stored row satisfies each of several conditions whose facts are known. */
export const satisfiesAll = (conditions: readonly StoreCondition[], row: StoredRow): boolean =>
  conditions.every((condition) => satisfies(condition, row));

/** Whether a stored row satisfies a condition whose facts are known: they have become values. */
export const satisfies = (condition: StoreCondition, row: StoredRow): boolean => {
  switch (condition.kind) {
    case 'compares': {
      const { left, operator, right, compare } = condition;
      if (right.kind === 'fact')
        throw new GriboError(
          'CALLER',
          `caller.${right.fact.name}`,
          'the fact has no value here: bind it first',
        );
      const other = right.kind === 'value' ? right.value : storedValue(row, right);
      return compare(operator, left.column.type, storedValue(row, left), other);
    }
    case 'thereIs': {
      const { link, selection, middle } = condition;
      const at = followed(row, condition.path);
      return pairsBehind(at, link, middle.length > 0).some(
        ([other, between]) =>
          satisfiesAll(selection.where, other) &&
          (between === null ? middle.length === 0 : satisfiesAll(middle, between)),
      );
    }
    case 'all':
      return satisfiesAll(condition.of, row);
    case 'any':
      return condition.of.some((part) => satisfies(part, row));
    case 'not':
      return !satisfies(condition.of, row);
    default:
      return condition satisfies never;
  }
};
