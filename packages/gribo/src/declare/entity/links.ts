import { freeze } from '../../util/freeze.js';

/** A link to at most one row: this side's columns hold the other side's key. */
export interface ToOne<Target extends string, Via extends string | readonly string[]> {
  readonly kind: 'toOne';
  readonly target: Target;
  readonly via: Via;
}

/** A link to any number of rows: their columns hold this side's key. */
export interface ToMany<Target extends string> {
  readonly kind: 'toMany';
  readonly target: Target;
  /** The columns of the other side, for a direct link. */
  readonly via: readonly string[];
  readonly through: Through | null;
}

/** The entity in the middle of a many-to-many link, and its columns that hold either side's key. */
export interface Through {
  readonly through: string;
  readonly from: string | readonly string[];
  readonly to: string | readonly string[];
}

const listed = (names: string | readonly string[]): readonly string[] =>
  typeof names === 'string' ? [names] : [...names];

/**
 * A link to at most one row.
 *
 * @param target the other entity's name
 * @param via this entity's column, or columns in the order of the other's key
 * @example
 * toOne('operator', 'operatorId')
 */
export const toOne = <const Target extends string, const Via extends string | readonly string[]>(
  target: Target,
  via: Via,
): ToOne<Target, Via> => freeze({ kind: 'toOne', target, via });

/**
 * A link to any number of rows.
 *
 * @param target the other entity's name
 * @param via the other entity's column or columns that hold this one's key; or, for a
 * many-to-many link, `{ through, from, to }`: the entity in the middle and its columns
 * @example
 * toMany('portCall', 'vesselId')
 * toMany('pilot', { through: 'pilotage', from: 'portCallId', to: 'pilotId' })
 */
export const toMany = <const Target extends string>(
  target: Target,
  via: string | readonly string[] | Through,
): ToMany<Target> => {
  const direct = typeof via === 'string' || Array.isArray(via);
  return freeze({
    kind: 'toMany',
    target,
    via: direct ? listed(via as string | readonly string[]) : [],
    through: direct ? null : (via as Through),
  });
};
