import { looked } from '../../plan/behind.js';
import type { SortKey } from '../../plan/condition.js';
import type { ColumnPlan, EntityPlan, LinkPlan } from '../../plan/entity-plan.js';
import { freeze } from '../../util/freeze.js';
import { didYouMean } from '../../util/nearest.js';
import type { BoundEntity } from '../entity/model.js';
import { columnSeals } from './link-seals.js';
import { Broken } from './member.js';
import { rootRow } from './row-ref.js';

/** A column behind to-one links. */
export interface SortTarget {
  readonly path: readonly LinkPlan[];
  readonly column: ColumnPlan;
}

/** Kinds whose values come before or after each other in no way that all stores agree on. */
const WITHOUT_ORDER: readonly string[] = ['json', 'array', 'duration'];

const unknownColumn = (
  name: string,
  { entity, links }: BoundEntity,
  part: string,
  isLast: boolean,
): Broken => {
  const toOne = [...links.values()].filter(({ kind }) => kind === 'toOne').map((link) => link.name);
  const known = isLast ? entity.columns.map((column) => column.name) : toOne;
  const what = isLast ? 'column' : 'to-one link';
  const missing = part === name ? `such ${what}` : `${what} "${part}"`;
  return new Broken(`cannot sort by "${name}": ${entity.name} has no ${missing}.${didYouMean(part, known)}`);
};

/** The column of a dotted name, or why it cannot be sorted by. */
export const sortTarget = (over: BoundEntity, name: string): SortTarget | Broken => {
  const parts = name.split('.');
  const last = parts.pop() ?? '';
  let at = over;
  const path: LinkPlan[] = [];
  for (const part of parts) {
    const link = at.links.get(part);
    const next = link?.kind === 'toOne' ? at.model.get(link.target.name) : undefined;
    if (link === undefined || next === undefined) return unknownColumn(name, at, part, false);
    path.push(link);
    at = next;
  }
  const column = (at.entity as EntityPlan).columns.find((candidate) => candidate.name === last);
  if (column === undefined) return unknownColumn(name, at, last, true);
  if (columnSeals({ ...rootRow(at), path }, column).length > 0)
    return new Broken(`cannot sort by "${name}": the order would show a sealed column`);
  if (WITHOUT_ORDER.includes(column.type.kind))
    return new Broken(`cannot sort by "${name}": ${column.type.kind} values have no order`);
  if (column.coded !== null)
    return new Broken(`cannot sort by "${name}": it is stored in a form of its own, which has another order`);
  // In an order, what a caller may not see is not there.
  return { path: looked(path), column };
};

/** Reads `'eta desc'`, or says why it cannot be sorted by. */
export const sortKey = (over: BoundEntity, words: string): SortKey | Broken => {
  const descending = words.endsWith(' desc');
  const target = sortTarget(over, descending ? words.slice(0, -' desc'.length) : words);
  return target instanceof Broken ? target : freeze({ ...target, descending, shown: null });
};
