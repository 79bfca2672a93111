import { DeclarationError } from '../../errors/declaration-error.js';
import type { StoreCondition } from '../../plan/condition.js';
import { freeze } from '../../util/freeze.js';
import type { Bound, EntityName, ModelTypes } from '../entity/model.js';
import type { Conditional, Row } from '../types/member-types.js';
import { conditionOn, type DeclareCondition } from './condition-on.js';

declare const OVER: unique symbol;

/** Conditions on rows of the entity `K`, as stores run them. */
export type RowsWhere<K = unknown> = readonly StoreCondition[] & { readonly [OVER]?: K };

/** A store runs what is data, and knows of no situation. */
const WRONG: Readonly<Record<string, string>> = {
  holds: 'a store runs what is data: holds(…) is code, compare a column instead',
  asked: 'a store does not know what was asked: ask it yourself, and leave the condition out',
  audience:
    'a store does not know whom it is for: ask for the audience yourself, and leave the condition out',
};

/**
 * Which rows of an entity, in the language of all conditions: what a handler adds to a list, or loads.
 *
 * @param over the entity
 * @param declare given the row, a condition that is data: comparisons, `some(…)`, `all`, `any`, `not`
 * @returns conditions, for `where` of `proceed`, `load.rows` and `store.list`
 * @throws {DeclarationError} `DECLARATION` where the condition is none, is code or depends on the situation
 * @example
 * rowsWhere(db.portCall, (c) => not(equals(c.status, 'cancelled'))).length // => 1
 */
export const rowsWhere = <M extends ModelTypes, K extends EntityName<M>>(
  over: Bound<M, K>,
  declare: (row: Row<M, K>) => Conditional,
): RowsWhere<K> => {
  const place = `rows of ${over.entity.name}`;
  // The row's types are for the compiler only.
  const bound = over as unknown as Bound<ModelTypes, never>;
  const made = conditionOn(bound, place, declare as unknown as DeclareCondition, WRONG);
  if (Array.isArray(made)) throw new DeclarationError(place, made);
  // What a situation settles is not in it: that was looked for.
  return freeze([made as StoreCondition]);
};
