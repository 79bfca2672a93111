import type { ConditionNode, ListSelection, SortKey } from '../../plan/condition.js';
import { leavesOf } from '../../plan/leaves-of.js';
import { selectionName } from '../../plan/selection-name.js';
import { freeze } from '../../util/freeze.js';
import { pickRows } from '../../values/pick-rows.js';
import { type BuiltCondition, conditionOf } from '../conditions/condition-of.js';
import type { EntityName, ModelTypes } from '../entity/model.js';
import {
  Broken,
  handOut,
  handOutBroken,
  type ListPlace,
  MemberRef,
  type RowPlace,
  referenceOf,
} from '../references/member.js';
import { rootRow, rowRef } from '../references/row-ref.js';
import { sortKey } from '../references/sort-key.js';
import type { ColumnsOf, Conditional, ListRef, OpenColumn, Row, ToOneName } from '../types/member-types.js';

/** The columns to sort by: `'eta'`, or `'eta desc'` for the highest first; `'vessel.name'` behind a to-one link. */
export type SortBy<M, K> = M extends ModelTypes
  ? K extends EntityName<M>
    ? `${SortPath<M, K>}${'' | ' desc'}`
    : never
  : never;

/** A column, or what is behind a to-one link: of that, the first name is checked here and the others at declaration. */
export type SortPath<M extends ModelTypes, K extends EntityName<M>> =
  | OpenColumn<ColumnsOf<M, K>>
  | `${ToOneName<M, K>}.${string}`;

export interface Selection<M extends ModelTypes, K extends EntityName<M>> {
  /** Conditions that all must hold: comparisons, `some(…)` for that there is one, `all`, `any`, `not`, `audience`. */
  readonly where?: (row: Row<M, K>) => readonly Conditional[];
  /** Columns to sort by, the first one first. Nulls come last. */
  readonly sort?: readonly SortBy<M, K>[];
  /** At most so many rows, after sorting. */
  readonly limit?: number;
}

/**
 * Some of the rows behind a to-many link: filtered, sorted, limited; to be nested, counted, or
 * given to `first`. The same is asked of the database, so no other rows are loaded.
 *
 * @param rows a to-many link
 * @param selection `where`, `sort` and `limit`, each of them optional
 * @example
 * PortCallLine(some(v.portCalls, { where: (c) => [equals(c.status, 'berthed')], sort: ['eta desc'], limit: 5 }))
 */
export const some = <M extends ModelTypes, K extends EntityName<M>, Null extends boolean>(
  rows: ListRef<M, K, Null>,
  selection: Selection<M, K>,
): ListRef<M, K, Null> => {
  const reference = referenceOf(rows);
  if (reference instanceof Broken) return handOutBroken(reference);
  if (reference === null || reference instanceof MemberRef || reference.kind !== 'rows') {
    return handOutBroken('some takes a to-many link: some(v.links, { where, sort, limit })');
  }
  const made = selectionOf(reference, selection as unknown as LooseSelection);
  return made instanceof Broken ? handOutBroken(made) : handOut({ ...reference, selection: made });
};

interface LooseSelection {
  readonly where?: (row: object) => readonly unknown[];
  readonly sort?: readonly string[];
  readonly limit?: number;
}

/** Why a condition cannot decide on rows in a database; null where it can. */
const unfit = (condition: BuiltCondition, place: RowPlace): Broken | null => {
  const wrong = leavesOf(condition.node).find(({ kind }) => kind === 'holds' || kind === 'asked');
  if (wrong?.kind === 'holds')
    return new Broken(
      'where takes conditions that a database can test: holds(…) is code, compare a column instead',
    );
  if (wrong !== undefined)
    return new Broken(
      'which rows there are does not depend on what is asked: put asked(…) around the member',
    );
  const isStray = condition.home !== null && condition.home.origin !== place.home.origin;
  return isStray
    ? new Broken('the condition is about the row of another shape: use the row that where is given')
    : null;
};

const whereOf = (place: RowPlace, conditions: readonly unknown[]): readonly (ConditionNode | Broken)[] =>
  conditions.map((value) => {
    const condition = conditionOf(value);
    return condition instanceof Broken ? condition : (unfit(condition, place) ?? condition.node);
  });

const selectionOf = (place: ListPlace, selection: LooseSelection): ListSelection<ConditionNode> | Broken => {
  const row = rootRow(place.bound);
  const where = whereOf(row, selection.where?.(rowRef(row)) ?? []);
  const sort = (selection.sort ?? []).map((words) => sortKey(place.bound, words));
  const limit = selection.limit ?? null;
  const broken = [...where, ...sort].find((part) => part instanceof Broken);
  if (broken instanceof Broken) return broken;
  if (limit !== null && !(Number.isInteger(limit) && limit >= 1)) {
    return new Broken(`limit must be a whole number of 1 or more, got ${limit}`);
  }
  const conditions = freeze(where.filter((part): part is ConditionNode => !(part instanceof Broken)));
  return freeze({
    where: conditions,
    sort: freeze(sort.filter((key): key is SortKey => !(key instanceof Broken))),
    limit,
    name: selectionName({ where: conditions, limit }),
    pick: where.length + sort.length === 0 ? null : pickRows,
  });
};
