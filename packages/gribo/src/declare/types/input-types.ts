import type { InputListPlan, InputPlan } from '../../plan/input-plan.js';
import type { Column, ColumnFlag } from '../entity/column.js';
import type { ToMany, ToOne, Via } from '../entity/links.js';
import type { EntityName, ModelTypes } from '../entity/model.js';
import type { SetBy } from './carried.js';
import type {
  AllOf,
  AnyOf,
  BeforeEdition,
  ColumnsOf,
  Either,
  ForAudience,
  FromEdition,
  Given,
  NotThat,
  Value,
} from './member-types.js';

declare const WAIVED: unique symbol;
declare const PRESET: unique symbol;
declare const LINK: unique symbol;
declare const CHANGE: unique symbol;

/** The type with null, where a column's flags say that it may be. */
export type NullIf<T, F> = 'null' extends F ? T | null : T;

/** A column as an input sees it: its name goes along, so that what is read lands under it. */
export type Settable<Name, T, W, F extends ColumnFlag> = Value<NullIf<T, F>, NullIf<W, F>> &
  SetBy<Name, NullIf<T, F>, 'generated' extends F ? 'generated' : 'open'>;

/** A link that a nested input is called with. */
export interface InputLink<Name, M, K, Many extends boolean> {
  readonly [LINK]: readonly [Name, M, K, Many];
}

type InputColumn<Name, C> = C extends Column<infer T, infer W, infer F> ? Settable<Name, T, W, F> : never;

type LinkOf<M, Name, X> =
  X extends ToMany<infer T>
    ? InputLink<Name, M, T, true>
    : X extends ToOne<infer T, Via, boolean>
      ? InputLink<Name, M, T, false>
      : never;

type InputLinks<M extends ModelTypes, K> = K extends keyof M['links']
  ? { readonly [N in keyof M['links'][K]]: LinkOf<M, N, M['links'][K][N]> }
  : unknown;

/** What an input's function is given: every column, sealed ones included, and every link. */
export type InputRow<M extends ModelTypes, K extends EntityName<M>> = {
  readonly [C in keyof ColumnsOf<M, K>]: InputColumn<C, ColumnsOf<M, K>[C]>;
} & InputLinks<M, K>;

/** A member that may be left out of the body. */
export interface Waived<M> {
  readonly [WAIVED]: M;
}

/** A member that a value stands in for where the body leaves it out. */
export interface Preset<M> {
  readonly [PRESET]: M;
}

/** A nested input with its fields. */
export interface NestedInput<Name, F, Many extends boolean> {
  readonly [CHANGE]: readonly [Name, F, Many];
}

/** What is decided before a body is read: who sends it, and in which edition. */
export type Settled =
  | ForAudience<string>
  | FromEdition<string>
  | BeforeEdition<string>
  | AllOf<Settled>
  | AnyOf<Settled>
  | NotThat<unknown>;

/** A column that the body may set. What the database makes has to be `assigned`. */
export type OpenMember = SetBy<unknown, unknown, 'open'>;

export type InputMember =
  | OpenMember
  | Waived<unknown>
  | Preset<unknown>
  | Given<Settled, unknown>
  | Either<Settled, unknown, unknown>
  | NestedInput<unknown, unknown, boolean>;

/** An input's literal: members and groups of members. */
export type InputFields = { readonly [name: string]: InputMember | InputFields };

/** An input of some fields, over the entity `K`; `Amends` where it is a merge patch. */
export interface InputOf<F, Amends extends boolean = boolean, K = unknown> {
  readonly plan: InputPlan;
  /** Carries the types; there is nothing at run time. */
  readonly fields?: F;
  readonly amends?: Amends;
  readonly over?: K;
}

/** Many of one input: what `list(input)` takes. */
export interface InputList<F, K = unknown, Amends extends boolean = boolean> {
  readonly plan: InputListPlan;
  /** Carries the types; there is nothing at run time. */
  readonly fields?: F;
  readonly amends?: Amends;
  readonly over?: K;
}

/** What an endpoint takes: an input, or `list(input)`. */
export type Takable = InputOf<unknown> | InputList<unknown>;

type Flat<X> = { [K in keyof X]: X[K] } & {};
type Together<U> = (U extends unknown ? (x: U) => void : never) extends (x: infer I) => void ? I : never;

type NestedChange<F, Many> = Many extends true ? ChangeOf<F>[] : ChangeOf<F>;

/** What two members set, of which there is one: what both set is always set. */
type SetsOfBoth<A, B> = Flat<
  { [N in keyof A & keyof B]: A[N] | B[N] } & {
    [N in Exclude<keyof A, keyof B>]?: A[N];
  } & { [N in Exclude<keyof B, keyof A>]?: B[N] }
>;

/** What one member sets, as an object. */
type Sets<M> =
  M extends SetBy<infer Name extends PropertyKey, infer T, infer _S>
    ? { [N in Name]: T }
    : M extends Waived<infer X>
      ? Partial<Sets<X>>
      : M extends Preset<infer X>
        ? Sets<X>
        : M extends Given<unknown, infer X>
          ? Partial<Sets<X>>
          : M extends Either<unknown, infer X, infer Y>
            ? SetsOfBoth<Sets<X>, Sets<Y>>
            : M extends NestedInput<infer Name extends PropertyKey, infer F, infer Many>
              ? { [N in Name]: NestedChange<F, Many> }
              : ChangeOf<M>;

/** Everything that the fields of an input set, under the entity's own names. */
export type ChangeOf<F> = Flat<Together<{ [K in keyof F]: Sets<F[K]> }[keyof F]>>;

/**
 * What reading an input yields: values under the entity's own property names; of a list of inputs, many of them.
 * @example
 * type NewVessel = Change<typeof NewVessel>;
 */
export type Change<I> =
  I extends InputList<infer F, unknown, infer Amends>
    ? readonly ([Amends] extends [true] ? Partial<ChangeOf<F>> : ChangeOf<F>)[]
    : I extends InputOf<infer F, infer Amends>
      ? Amends extends true
        ? Partial<ChangeOf<F>>
        : ChangeOf<F>
      : never;
