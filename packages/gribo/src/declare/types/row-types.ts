import type { figures } from '../../plan/figures.js';
import type { Column, ColumnFlag, StoredValue } from '../entity/column.js';
import type { ToMany, ToOne, Via } from '../entity/links.js';
import type { Bound, EntityName, ModelTypes } from '../entity/model.js';
import type { ColumnsOf } from './member-types.js';

/** A stored row of entity `K` of a model: every column, under its property name. */
export type StoredRow<M extends ModelTypes, K extends EntityName<M>> = {
  -readonly [C in keyof ColumnsOf<M, K>]: StoredValue<ColumnsOf<M, K>[C]>;
};

/**
 * A stored row of an entity: the value of every column, under its property name.
 * @example
 * const vessel: RowFor<typeof db.operator> = { id: 3, name: 'Lantern Bay', country: 'QA' };
 */
export type RowFor<B> =
  B extends Bound<infer M, infer K> ? (K extends EntityName<M> ? StoredRow<M, K> : never) : never;

/** How strictly a row is taken: as a store gives it, or as any driver may. */
type From = 'store' | 'driver';

/** A value of a row: drivers give days as `Date`, and big whole numbers as numbers or text. */
type Held<T, By extends From> = By extends 'store'
  ? T
  : T extends string
    ? string | Date
    : T extends bigint
      ? bigint | number | string
      : T;

/** The columns of a row that was loaded: those that nobody needs may be missing. */
type HeldColumns<C, By extends From> = { readonly [N in keyof C]?: Held<StoredValue<C[N]>, By> | undefined };

type HeldRows<R, By extends From> = By extends 'store' ? readonly R[] : Iterable<R> | ArrayLike<R>;

type HeldLink<M extends ModelTypes, Link, By extends From> =
  Link extends ToOne<infer T extends EntityName<M> & string, Via, boolean>
    ? HeldRow<M, T, By> | null
    : Link extends ToMany<infer T extends EntityName<M> & string>
      ? HeldRows<HeldRow<M, T, By>, By>
      : never;

type HeldLinks<M extends ModelTypes, K, By extends From> = K extends keyof M['links']
  ? { readonly [N in keyof M['links'][K]]?: HeldLink<M, M['links'][K][N], By> | undefined }
  : unknown;

/** 'via' where a column is read under another name: what such a row has is not known. */
type FlagsOf<C> = C extends Column<unknown, unknown, infer F extends ColumnFlag> ? F : never;

type HeldRow<M extends ModelTypes, K extends EntityName<M>, By extends From> =
  'via' extends FlagsOf<ColumnsOf<M, K>[keyof ColumnsOf<M, K>]> ? object : RowBy<M, K, By>;

/** A row of a named entity: an alias of its own, for messages to say it. */
type RowBy<M extends ModelTypes, K extends EntityName<M>, By extends From> = HeldColumns<
  ColumnsOf<M, K>,
  By
> &
  HeldLinks<M, K, By> &
  Figured;

/** Figures about the rows behind links: a store may say them instead of loading those. */
interface Figured {
  readonly [figures]?: Readonly<Record<string, unknown>>;
}

/**
 * A row to write, however it was loaded: a plain object or a class instance, with the columns and links that are needed
 * of it. Any object where the entity is not known, or where a column of it is read by `via`.
 */
export type GivenRow<M, K> = M extends ModelTypes
  ? K extends EntityName<M>
    ? HeldRow<M, K, 'driver'>
    : object
  : object;

/** A row as a store gives it, with the columns and links that were asked of it; any object where the entity is not known. */
export type LoadedRow<M = unknown, K = unknown> = M extends ModelTypes
  ? K extends EntityName<M>
    ? HeldRow<M, K, 'store'>
    : object
  : object;

/** Values of columns of entity `K`, by which rows are found. */
export type ColumnValues<M, K> = M extends ModelTypes
  ? K extends EntityName<M>
    ? HeldColumns<ColumnsOf<M, K>, 'driver'>
    : object
  : object;
