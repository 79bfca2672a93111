import type { Figure } from '../../plan/condition.js';
import { freeze } from '../../util/freeze.js';
import { figureType, lookAtFigure } from '../../values/figures.js';
import type { EntityName, ModelTypes } from '../entity/model.js';
import { columnSeals, thereSeals } from '../references/link-seals.js';
import { Broken, handOut, handOutBroken, MemberRef, referenceOf } from '../references/member.js';
import { rootRow, rowRef } from '../references/row-ref.js';
import type { AnyValue, ListRef, Row, Sealed, Value } from '../types/member-types.js';

type NullIf<T, Null> = Null extends true ? T | null : T;

/** A figure that is `T` in rows and `W` in JSON: sealed where its column is. */
type Made<V, T, W, Null> =
  V extends Sealed<unknown, unknown>
    ? Sealed<NullIf<NonNullable<T>, Null>, NullIf<NonNullable<W>, Null>>
    : Value<NullIf<NonNullable<T>, Null>, NullIf<NonNullable<W>, Null>>;

/** What a sum over a column is: of its own type. */
type SumOf<V, Null> =
  V extends Value<infer T, infer W>
    ? Made<V, T, W, Null>
    : V extends Sealed<infer T, infer W>
      ? Made<V, T, W, Null>
      : never;

/** What an average is: a decimal as text, where the column is exact. */
type AverageOf<V> =
  V extends Value<infer T, infer W>
    ? Averaged<V, T, W>
    : V extends Sealed<infer T, infer W>
      ? Averaged<V, T, W>
      : never;

type Averaged<V, T, W> = NonNullable<T> extends bigint ? Made<V, string, string, true> : Made<V, T, W, true>;

const WORDS = 'takes a to-many link and a column of its rows';

const figure = (how: Figure['how'], rows: unknown, pick: (row: never) => unknown): unknown => {
  const example = `${how}(v.links, (l) => l.column)`;
  const reference = referenceOf(rows);
  if (reference instanceof Broken) return handOutBroken(reference);
  if (reference === null || reference instanceof MemberRef || reference.kind !== 'rows')
    return handOutBroken(`${how} ${WORDS}: ${example}`);
  const { path, link, selection, home, bound } = reference;
  if (selection.limit !== null)
    return handOutBroken(`${how} is of all rows that are selected: leave limit out`);
  const picked = referenceOf(pick(rowRef(rootRow(bound)) as never));
  if (picked instanceof Broken) return handOutBroken(picked);
  if (!(picked instanceof MemberRef) || picked.node.kind !== 'column' || picked.node.path.length > 0)
    return handOutBroken(`${how} ${WORDS}: ${example}`);
  const { column } = picked.node;
  const yields = column.coded === null ? figureType(how, column.type) : null;
  if (yields === null) return handOutBroken(`there is no ${how} of ${column.type.kind} columns`);
  const of: Figure = freeze({ how, column, yields: freeze(yields), look: lookAtFigure });
  const sealsOfColumn = columnSeals({ kind: 'row', home, path: [...path, link], bound }, column);
  const seals = [...new Set([...sealsOfColumn, ...thereSeals(link)])];
  return handOut(new MemberRef({ kind: 'figure', path, link, selection, of }, home, seals));
};

/**
 * The sum of a column of the rows behind a to-many link, in the database; over `some(…)`, of those that are selected. Decimals
 * and big whole numbers are exact. Of no rows it is zero; null is left out.
 *
 * @param rows a to-many link
 * @param column given a row behind it, its column: a number, bigint or decimal
 * @returns a value of the column's type; null where the link is reached through a missing row
 * @example
 * sum(v.portCalls, (c) => c.dues)
 */
export const sum = <M extends ModelTypes, K extends EntityName<M>, Null extends boolean, V extends AnyValue>(
  rows: ListRef<M, K, Null>,
  column: (row: Row<M, K>) => V,
): SumOf<V, Null> => figure('sum', rows, column) as SumOf<V, Null>;

/**
 * The average of a column of the rows behind a to-many link, or of those that are selected. Of decimals and bigints it is
 * a decimal with six more places than the column has, rounded half away from zero; of other numbers it is a number.
 *
 * @param rows a to-many link
 * @param column given a row behind it, its column: a number, bigint or decimal
 * @returns a value; null where there are no rows
 * @example
 * average(v.portCalls, (c) => c.dues)
 */
export const average = <
  M extends ModelTypes,
  K extends EntityName<M>,
  Null extends boolean,
  V extends AnyValue,
>(
  rows: ListRef<M, K, Null>,
  column: (row: Row<M, K>) => V,
): AverageOf<V> => figure('average', rows, column) as AverageOf<V>;

/**
 * The least value of a column of the rows behind a to-many link, or of those that are selected.
 *
 * @param rows a to-many link
 * @param column given a row behind it, its column: a number, bigint, decimal, day, time of day or moment
 * @returns a value of the column's type; null where there are no rows
 * @example
 * minimum(v.portCalls, (c) => c.eta)
 */
export const minimum = <
  M extends ModelTypes,
  K extends EntityName<M>,
  Null extends boolean,
  V extends AnyValue,
>(
  rows: ListRef<M, K, Null>,
  column: (row: Row<M, K>) => V,
): SumOf<V, true> => figure('minimum', rows, column) as SumOf<V, true>;

/**
 * The greatest value of a column of the rows behind a to-many link, or of those that are selected.
 *
 * @param rows a to-many link
 * @param column given a row behind it, its column: a number, bigint, decimal, day, time of day or moment
 * @returns a value of the column's type; null where there are no rows
 * @example
 * maximum(v.portCalls, (c) => c.eta)
 */
export const maximum = <
  M extends ModelTypes,
  K extends EntityName<M>,
  Null extends boolean,
  V extends AnyValue,
>(
  rows: ListRef<M, K, Null>,
  column: (row: Row<M, K>) => V,
): SumOf<V, true> => figure('maximum', rows, column) as SumOf<V, true>;
