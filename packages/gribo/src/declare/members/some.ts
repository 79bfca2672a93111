import type { EntityPlan } from '../../plan/entity-plan.js';
import type { ListSelection, RowFilter, SortKey } from '../../plan/filter.js';
import { freeze } from '../../util/freeze.js';
import { didYouMean } from '../../util/nearest.js';
import { comparisonOf } from '../conditions/filters.js';
import type { EntityName, ModelTypes } from '../entity/model.js';
import {
  Broken,
  handOut,
  handOutBroken,
  type ListPlace,
  MemberRef,
  referenceOf,
} from '../references/member.js';
import { rootRow, rowRef } from '../references/row-ref.js';
import type { Comparison } from '../types/comparison.js';
import type { ColumnsOf, ListRef, OpenColumn, Row } from '../types/member-types.js';

/** The columns to sort by: `'eta'`, or `'eta desc'` for the highest first. */
export type SortBy<M, K> = M extends ModelTypes
  ? K extends EntityName<M>
    ? `${OpenColumn<ColumnsOf<M, K>>}${'' | ' desc'}`
    : never
  : never;

export interface Selection<M extends ModelTypes, K extends EntityName<M>> {
  /** Comparisons that all must hold. */
  readonly where?: (row: Row<M, K>) => readonly Comparison[];
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

const selectionOf = (place: ListPlace, selection: LooseSelection): ListSelection | Broken => {
  const where = (selection.where?.(rowRef(rootRow(place.bound))) ?? []).map(comparisonOf);
  const sort = (selection.sort ?? []).map((words) => sortKey(place.bound.entity, words));
  const limit = selection.limit ?? null;
  const broken = [...where, ...sort].find((part) => part instanceof Broken);
  if (broken instanceof Broken) return broken;
  if (limit !== null && !(Number.isInteger(limit) && limit >= 1)) {
    return new Broken(`limit must be a whole number of 1 or more, got ${limit}`);
  }
  return freeze({
    where: freeze(where.filter((filter): filter is RowFilter => !(filter instanceof Broken))),
    sort: freeze(sort.filter((key): key is SortKey => !(key instanceof Broken))),
    limit,
  });
};

/** Reads `'eta desc'`, or says why it cannot be sorted by. */
export const sortKey = (entity: EntityPlan, words: string): SortKey | Broken => {
  const descending = words.endsWith(' desc');
  const name = descending ? words.slice(0, -' desc'.length) : words;
  const column = entity.columns.find((candidate) => candidate.name === name);
  if (column === undefined) {
    const known = entity.columns.map((candidate) => candidate.name);
    return new Broken(
      `cannot sort by "${name}": ${entity.name} has no such column.${didYouMean(name, known)}`,
    );
  }
  if (column.sealed !== null)
    return new Broken(`cannot sort by "${name}": the order would show a sealed column`);
  return freeze({ column, descending });
};
