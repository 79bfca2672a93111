import type { SetBy } from './carried.js';
import type { InputOf, NestedInput, Preset, Waived } from './input-types.js';
import type {
  AllOf,
  AnyOf,
  BeforeEdition,
  Either,
  FromEdition,
  Given,
  NotThat,
  Value,
} from './member-types.js';
import type { Settle } from './output.js';

/** Something of a declaration that is there in some editions, or another in each. */
export type ByEdition<T> = Given<unknown, T> | Either<unknown, T, T>;

/** The name of an edition, as `editions` of an API have it. */
export type EditionName<E> = E extends { readonly name: infer Name } ? Name & string : E & string;

/** The names of an edition and of those before it; of a name that is not among them, all. */
export type UpTo<Editions, Name> = Editions extends readonly [infer First, ...infer Rest]
  ? Name extends EditionName<First>
    ? EditionName<First>
    : EditionName<First> | UpTo<Rest, Name>
  : never;

/** What is there in the edition of the names `Ed`: itself where no edition decides; never where nothing is. */
export type InForce<X, Ed extends string> =
  X extends Either<infer C, infer Y, infer Z>
    ? Settle<Given<C, 1>, string, string, Ed> extends 1
      ? InForce<Y, Ed>
      : InForce<Z, Ed>
    : X extends Given<infer C, infer Y>
      ? Settle<Given<C, 1>, string, string, Ed> extends 1
        ? InForce<Y, Ed>
        : never
      : X;

/** All that something is in one edition or another. */
export type InAny<X> =
  X extends Either<unknown, infer Y, infer Z>
    ? InAny<Y> | InAny<Z>
    : X extends Given<unknown, infer Y>
      ? InAny<Y>
      : X;

/** Whether a condition is about editions. */
type IsOfEditions<C> = C extends FromEdition<string> | BeforeEdition<string>
  ? true
  : C extends NotThat<infer X>
    ? IsOfEditions<X>
    : C extends AllOf<infer Cs> | AnyOf<infer Cs>
      ? IsOfEditions<Cs>
      : false;

/** A member of an input by what it sets: a preset sets what its member does, and two that set the same are one. */
type Setter<M> =
  M extends Preset<infer X>
    ? Setter<X>
    : M extends Given<infer C, infer X>
      ? Given<C, Setter<X>>
      : M extends Either<infer C, infer X, infer Y>
        ? OneSetter<C, Setter<X>, Setter<Y>>
        : M;
type OneSetter<C, X, Y> = [X, Y] extends [Y, X] ? X : Either<C, X, Y>;

/** The fields of an input by what they set. */
export type Setters<F> = { -readonly [N in keyof F]: Setter<F[N]> };

/** Whether a member of an input differs by edition. */
type Differs<M> =
  M extends Either<unknown, unknown, unknown>
    ? true
    : M extends Given<infer C, infer X>
      ? IsOfEditions<C> | Differs<X>
      : M extends Waived<infer X> | Preset<infer X>
        ? Differs<X>
        : M extends NestedInput<unknown, infer F, boolean>
          ? Differs<F[keyof F]>
          : M extends SetBy<unknown, unknown, unknown> | Value<unknown, unknown> | InputOf<unknown>
            ? false
            : Differs<M[keyof M]>;

/** Whether the fields of an input differ by edition. */
export type HasEditions<F> = true extends Differs<F[keyof F]> ? true : false;

/** The fields of an input that are alike in all editions. The intersection makes the compiler write members, not this name. */
export type PlainFields<F> = { [N in keyof F as true extends Differs<F[N]> ? never : N]: F[N] } & {};

/** The fields of an input that differ by edition. */
export type DifferingFields<F> = { [N in keyof F as true extends Differs<F[N]> ? N : never]: F[N] } & {};

/** A member of an input in the edition of the names `Ed`; never where it is not there. */
type MemberIn<M, Ed extends string> =
  M extends Waived<infer X>
    ? Waived<MemberIn<X, Ed>>
    : M extends Preset<infer X>
      ? Preset<MemberIn<X, Ed>>
      : M extends NestedInput<infer Name, infer F, infer Many>
        ? NestedInput<Name, FieldsIn<F, Ed>, Many>
        : M extends Either<unknown, unknown, unknown>
          ? MemberIn<InForce<M, Ed>, Ed>
          : M extends Given<infer C, infer X>
            ? IsOfEditions<C> extends true
              ? MemberIn<InForce<M, Ed>, Ed>
              : Given<C, MemberIn<X, Ed>>
            : M extends SetBy<unknown, unknown, unknown>
              ? M
              : FieldsIn<M, Ed>;

/** The fields of an input in the edition of the names `Ed`. */
export type FieldsIn<F, Ed extends string> = {
  readonly [N in keyof F as [MemberIn<F[N], Ed>] extends [never] ? never : N]: MemberIn<F[N], Ed>;
};
