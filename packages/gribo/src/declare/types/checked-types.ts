import type { SetBy } from './carried.js';
import type { InputFields, InputMember } from './input-types.js';
import type {
  Cases,
  Fields,
  Given,
  ListRef,
  Member,
  Nested,
  Optional,
  RowBrand,
  Sealed,
  Self,
  Value,
  Wrap,
} from './member-types.js';
import type { ShapeOf } from './shape-types.js';

/*
 * What a literal has to be, said by the compiler in the words of the run time: a member that is right asks for
 * nothing more, and one that is not asks for a sentence, which its error then shows in one line.
 */

/** A literal before it is checked. */
export interface Literal {
  readonly [name: string]: unknown;
}

type Primitive = string | number | bigint | boolean | symbol | null | undefined;

type WholeRow = 'this is a whole row: nest it with a shape, Shape(v.link), or name its columns';
type ManyRows =
  'these are many rows: nest them with a shape, Shape(v.links), or use count(v.links) or first(v.links, Shape)';
type BareShape = 'a shape is called with a row: Shape(v.link)';
type NoMember = 'expected a member; use constant(…)';
type SealedColumn = 'this column is sealed: wrap it in unseal(audience, …) or masked(…), or leave it out';

/** What one member of a shape has to be: itself, where it is right. */
type CheckedMember<M> = M extends Member
  ? M
  : M extends Sealed<unknown, unknown>
    ? SealedColumn
    : M extends RowBrand<unknown, unknown, boolean>
      ? WholeRow
      : M extends ListRef<unknown, unknown, boolean>
        ? ManyRows
        : M extends ShapeOf<unknown>
          ? BareShape
          : M extends Primitive
            ? NoMember
            : CheckedFields<M>;

type Choice =
  'members are objects here, so ??, ||, && and ? : cannot choose: use orElse(a, b) for a fallback, or given(condition, member)';

/** Whether a type is one of several: what `??` and `? :` between members leave behind. */
type IsUnion<M, All = M> = M extends unknown ? ([All] extends [M] ? false : true) : never;

/** Whether a member, or one inside it, was chosen from several. */
type IsChosen<M> = [M] extends [Value<unknown, unknown>]
  ? IsUnion<M>
  : M extends Given<unknown, infer X> | Optional<infer X>
    ? IsChosen<X>
    : M extends Cases<infer C>
      ? HasChosen<C>
      : M extends Nested<unknown, Wrap> | Self<Wrap> | InputMember
        ? IsUnion<M>
        : HasChosen<M>;

type HasChosen<F> = { [N in keyof F]: IsChosen<F[N]> }[keyof F];

/** What a shape's literal has to be. */
export type CheckedFields<F> = F extends Fields
  ? true extends HasChosen<F>
    ? { readonly [N in keyof F]: true extends IsChosen<F[N]> ? Choice : F[N] }
    : F
  : { readonly [N in keyof F]: CheckedMember<F[N]> };

type Made<Name> = Name extends string
  ? `${Name} is made by the database: leave it out, or say assigned(v.${Name})`
  : never;
type Computed = 'an input sets columns: this value is computed, so there is nothing to set';
type NoTarget = 'expected a column, a group or a nested input';

/** What one member of an input has to be: itself, where it is right. */
type CheckedTarget<M> = M extends InputMember
  ? M
  : M extends SetBy<infer Name, unknown, 'generated'>
    ? Made<Name>
    : M extends Member
      ? Computed
      : M extends Primitive
        ? NoTarget
        : CheckedTargets<M>;

/** What an input's literal has to be. */
export type CheckedTargets<F> = F extends InputFields
  ? true extends HasChosen<F>
    ? { readonly [N in keyof F]: true extends IsChosen<F[N]> ? Choice : F[N] }
    : F
  : { readonly [N in keyof F]: CheckedTarget<F[N]> };

/** What the list of a collection has to be: a shape alone says nothing of how many. */
export type CheckedOptions<O> = O extends { readonly list: ShapeOf<unknown> }
  ? Omit<O, 'list'> & { readonly list: 'expected list(shape) or page(shape)' }
  : O;
