import type { SetBy } from './carried.js';
import type { FilterMember } from './comparison.js';
import type { ByEdition, InAny } from './edition-types.js';
import type { InputFields, InputList, InputMember, InputOf } from './input-types.js';
import type {
  Cases,
  Either,
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
import type { EntityIn, ListBody, ShapeOf } from './shape-types.js';

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
type SpreadRow =
  'a row is spread: name its columns, spread a shape, ...Shape(v.link), or spread everything(v.link)';
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
    : M extends Either<unknown, infer X, infer Y>
      ? IsChosen<X> | IsChosen<Y>
      : M extends Cases<infer C>
        ? HasChosen<C>
        : M extends Nested<unknown, Wrap> | Self<Wrap> | InputMember
          ? IsUnion<M>
          : HasChosen<M>;

/** Members have names: what else a row has that was spread leads into the model. */
type HasChosen<F> = { [N in keyof F & string]: IsChosen<F[N]> }[keyof F & string];

/** What a shape's literal has to be. */
export type CheckedFields<F> = F extends Fields
  ? true extends HasChosen<F>
    ? { readonly [N in keyof F]: true extends IsChosen<F[N]> ? Choice : F[N] }
    : F
  : { readonly [N in keyof F]: N extends symbol ? SpreadRow : CheckedMember<F[N]> };

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

type ManyWanted = 'expected list(shape) or page(shape)';
type WritingWanted = 'say { takes: input, returns: shape }';
type FilterWanted = 'a filter names a column only, such as equals(v.flagState): the caller sends the value';
type OneWanted = 'expected a shape: one row is sent';
type AmendingWanted = 'expected amending(input, …): absent means unchanged';
type InputWanted = 'expected input(…): all of it is set anew';

/** What a body over the entity `K` has to be. */
type CheckedBody<B, K> = [K] extends [never]
  ? 'it is about no entity: say from, the one whose rows it returns'
  : [EntityIn<InAny<B>>] extends [K]
    ? B
    : unknown extends EntityIn<InAny<B>>
      ? B
      : `it is about ${K & string}, but this is over ${EntityIn<InAny<B>> & string}`;

/** What an input over the entity `K` has to be: `Right` where it is over that one. */
type InputOver<I, K, Right> = I extends InputList<unknown, infer Over> | InputOf<unknown, boolean, infer Over>
  ? unknown extends Over
    ? I
    : [Over] extends [K]
      ? Right
      : `it is about ${K & string}, but this is an input over ${Over & string}`
  : I;

/** What an input has to be for an operation that amends, or for one that does not. */
type CheckedAmending<P, I> = I extends { readonly amends?: infer Amends }
  ? P extends 'amend'
    ? [Exclude<Amends, undefined>] extends [true]
      ? I
      : AmendingWanted
    : [Exclude<Amends, undefined>] extends [false]
      ? I
      : InputWanted
  : I;

/** What an operation that takes an input has to be. */
type CheckedWriting<P, W, K> = {
  readonly [Q in keyof W]: Q extends 'returns'
    ? W[Q] extends ListBody<unknown>
      ? OneWanted
      : CheckedBody<W[Q], K>
    : Q extends 'takes'
      ? InputOver<W[Q], K, CheckedAmending<P, W[Q]>>
      : `there is no "${Q & string}" here: takes and returns`;
};

/** What the filters of a collection have to be: comparisons without a value. */
type CheckedFilters<X> = X extends (row: infer R) => infer Made
  ? Made extends Readonly<Record<string, FilterMember>>
    ? X
    : (row: R) => { readonly [N in keyof Made]: Made[N] extends FilterMember ? Made[N] : FilterWanted }
  : X;

type Setting = 'remove' | 'under' | 'filters' | 'sort' | 'audiences' | 'deprecated' | 'about';

/** What one option of a collection has to be. */
type CheckedOption<P, X, K> = P extends 'create' | 'replace' | 'amend'
  ? X extends { readonly plan: unknown }
    ? WritingWanted
    : X extends ByEdition<unknown>
      ? X
      : CheckedWriting<P, X, K>
  : CheckedOtherOption<P, X, K>;

type CheckedOtherOption<P, X, K> = P extends 'list'
  ? X extends ShapeOf<unknown>
    ? ManyWanted
    : CheckedBody<X, K>
  : P extends 'read'
    ? X extends ListBody<unknown>
      ? OneWanted
      : CheckedBody<X, K>
    : P extends 'filters'
      ? CheckedFilters<X>
      : P extends Setting
        ? X
        : `there is no "${P & string}" in a collection: list, read, create, replace, amend, remove, or a setting`;

/** What the options of a collection over the entity `K` have to be: themselves where they are right. */
export type CheckedOptions<O, K> = O extends { readonly [P in keyof O]: CheckedOption<P, O[P], K> }
  ? O
  : { readonly [P in keyof O]: CheckedOption<P, O[P], K> };

/** What the options of an endpoint over the entity `K` have to be. */
export type CheckedEndpointOptions<O, K> = O extends {
  readonly [P in keyof O]: CheckedEndpointOption<P, O[P], K>;
}
  ? O
  : { readonly [P in keyof O]: CheckedEndpointOption<P, O[P], K> };

type CheckedEndpointOption<P, X, K> = P extends 'returns'
  ? CheckedBody<X, K>
  : P extends 'takes'
    ? InputOver<X, K, X>
    : P extends 'from' | 'query' | 'problems' | 'files' | 'makes' | 'audiences' | 'deprecated' | 'about'
      ? X
      : `there is no "${P & string}" in an endpoint: from, returns, takes, files, query, problems, makes, audiences, deprecated or about`;

/** What the options of a page have to be: no others than there are. */
export type CheckedPage<O, Known> =
  Exclude<keyof O, Known> extends never
    ? O
    : {
        readonly [P in keyof O]: P extends Known
          ? O[P]
          : `there is no "${P & string}" in a page: by, size, max, totals or sort`;
      };
