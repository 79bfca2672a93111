import { freeze } from '../../util/freeze.js';

/** Pairs of columns: the one that holds a value of the other entity's, and the one that it is a value of. */
export interface Pairs {
  readonly [holding: string]: string;
}

/** How a link goes: a column, or columns in the order of the key that they hold, or pairs. */
export type Via = string | readonly string[] | Pairs;

/** A link to at most one row: this side's columns hold the other side's key. */
export interface ToOne<Target extends string, V, Optional extends boolean = false> {
  readonly kind: 'toOne';
  readonly target: Target;
  readonly via: V;
  readonly optional: Optional;
}

/** A link to any number of rows: their columns hold this side's key. */
export interface ToMany<Target extends string> {
  readonly kind: 'toMany';
  readonly target: Target;
  /** The columns of the other side, for a direct link. */
  readonly via: Via;
  readonly through: Through | null;
}

/** The entity in the middle of a many-to-many link, and its columns that hold either side's key. */
export interface Through {
  readonly through: string;
  readonly from: Via;
  readonly to: Via;
}

/**
 * A link to at most one row.
 *
 * @param target the other entity's name
 * @param via this entity's column; or columns, in the order of the other's key; or pairs of this entity's columns and the
 * other's, which make it up or are unique
 * @param options `optional`: there may be no row, though the columns are never null: a profile that has its user's key
 * @example
 * toOne('operator', 'operatorId')
 * toOne('branch', { branchNumber: 'number', companyId: 'company' })
 * toOne('profile', 'id', { optional: true })
 */
export const toOne: MakeToOne = (
  target: string,
  via: Via,
  options: { readonly optional?: boolean } = {},
): never =>
  // What the two forms of the call yield is said by their types.
  freeze({ kind: 'toOne', target, via, optional: options.optional === true }) as never;

/** Left out, `optional` is no boolean to be inferred: it is false. */
interface MakeToOne {
  <const Target extends string, const V extends Via>(target: Target, via: V): ToOne<Target, V>;
  <const Target extends string, const V extends Via, const Optional extends boolean>(
    target: Target,
    via: V,
    options: { readonly optional: Optional },
  ): ToOne<Target, V, Optional>;
}

const isThrough = (via: Via | Through): via is Through =>
  typeof via === 'object' && !Array.isArray(via) && 'through' in via && 'from' in via && 'to' in via;

/**
 * A link to any number of rows.
 *
 * @param target the other entity's name
 * @param via the other entity's column or columns that hold this one's key, or pairs of the other's columns and this
 * entity's; or, for a many-to-many link, `{ through, from, to }`: the entity in the middle, and its columns
 * @example
 * toMany('portCall', 'vesselId')
 * toMany('desk', { branchNumber: 'number', companyId: 'company' })
 * toMany('pilot', { through: 'pilotage', from: 'portCallId', to: 'pilotId' })
 */
export const toMany = <const Target extends string>(target: Target, via: Via | Through): ToMany<Target> =>
  isThrough(via)
    ? freeze({ kind: 'toMany', target, via: [], through: via })
    : freeze({ kind: 'toMany', target, via, through: null });
