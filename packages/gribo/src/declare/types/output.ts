import type {
  AllOf,
  AnyOf,
  BeforeEdition,
  Cases,
  Either,
  ForAudience,
  FromEdition,
  Given,
  Nested,
  NotThat,
  Optional,
  Self,
  Value,
  Wrap,
} from './member-types.js';

/** Shows a type's members rather than how it was made. */
export type Flat<X> = { [K in keyof X]: X[K] } & {};

declare const ABSENT: unique symbol;
/** A member that this situation leaves out. */
type Absent = typeof ABSENT;

/** The last part of a dotted name: `vessels.read` gives `read`. */
export type LastPart<S> = S extends `${string}.${infer R}` ? LastPart<R> : S;

/**
 * Whether a condition holds for audience `A` in an edition: 'yes', 'no' or 'may'. `string` stands for any audience. `Ed` are
 * the names of the edition and of those before it; `string`, all of them, is the newest.
 */
type Holds<C, A extends string, Ed extends string> =
  C extends FromEdition<infer Name>
    ? Name extends Ed
      ? 'yes'
      : 'no'
    : C extends BeforeEdition<infer Name>
      ? Name extends Ed
        ? 'no'
        : 'yes'
      : C extends ForAudience<infer Names>
        ? string extends A
          ? 'may'
          : A extends Names
            ? 'yes'
            : 'no'
        : C extends NotThat<infer X>
          ? Opposite<Holds<X, A, Ed>>
          : C extends AllOf<infer Cs>
            ? Every<Holds<Cs, A, Ed>>
            : C extends AnyOf<infer Cs>
              ? Opposite<Every<Opposite<Holds<Cs, A, Ed>>>>
              : 'may';
type Opposite<H> = H extends 'yes' ? 'no' : H extends 'no' ? 'yes' : 'may';
type Every<H> = 'no' extends H ? 'no' : 'may' extends H ? 'may' : 'yes';

/** The case of `at` for endpoint `E`, by full name, last part, or `otherwise`. */
type CaseAt<C, E extends string> = string extends E
  ? Optional<C[keyof C]>
  : E extends keyof C
    ? C[E]
    : LastPart<E> extends keyof C
      ? C[LastPart<E>]
      : 'otherwise' extends keyof C
        ? C['otherwise']
        : Absent;

/** Wraps what is left of a conditional member. */
type IfHolds<H, M> = H extends 'yes' ? M : H extends 'no' ? Absent : M extends Absent ? Absent : Optional<M>;

/** A member as it is at endpoint `E` for audience `A`: itself, `Optional` or `Absent`. */
export type Settle<M, E extends string, A extends string, Ed extends string> =
  M extends Cases<infer C>
    ? Settle<CaseAt<C, E>, E, A, Ed>
    : M extends Given<infer C, infer X>
      ? IfHolds<Holds<C, A, Ed>, Settle<X, E, A, Ed>>
      : M extends Either<infer C, infer X, infer Y>
        ? Settle<Holds<C, A, Ed> extends 'yes' ? X : Y, E, A, Ed>
        : M extends Optional<infer X>
          ? Optional<Settle<X, E, A, Ed>>
          : M;

type Wrapped<O, Wr> = Wr extends 'many'
  ? O[]
  : Wr extends 'one'
    ? O
    : Wr extends 'oneOrNull'
      ? O | null
      : O[] | null;

/** JSON's own simple values: they stand for themselves. */
export type Simple = string | number | boolean | null;

/** What a settled member writes. `S` are the fields of the shape around it, for `Self`. */
type Written<M, E extends string, A extends string, Ed extends string, S> =
  M extends Value<unknown, infer W>
    ? W
    : M extends Optional<infer X>
      ? Written<X, E, A, Ed, S>
      : M extends Nested<infer F, infer Wr>
        ? Wrapped<Out<F, E, A, Ed>, Wr>
        : M extends Self<infer Wr extends Wrap>
          ? Wrapped<Out<S, E, A, Ed>, Wr>
          : M extends Absent
            ? never
            : M extends Simple
              ? M
              : Out<M, E, A, Ed, S>;

type SettleAll<F, E extends string, A extends string, Ed extends string> = {
  -readonly [K in keyof F as K extends symbol ? never : K]: Settle<F[K], E, A, Ed>;
};

/** The members that are always there. `Self` is not: a recursive shape ends somewhere. */
type SurePart<F, E extends string, A extends string, Ed extends string, S> = {
  [K in keyof F as F[K] extends Absent | Optional<unknown> | Self<Wrap> ? never : K]: Written<
    F[K],
    E,
    A,
    Ed,
    S
  >;
};
type OptionalPart<F, E extends string, A extends string, Ed extends string, S> = {
  [K in keyof F as F[K] extends Optional<unknown> | Self<Wrap> ? K : never]?: Written<F[K], E, A, Ed, S>;
};
type Join<F, E extends string, A extends string, Ed extends string, S> = Flat<
  SurePart<F, E, A, Ed, S> & OptionalPart<F, E, A, Ed, S>
>;

/** The names of members: what else a spread row brings along is none. */
export type Names<F> = keyof F extends string | number ? keyof F : Exclude<keyof F, symbol>;

/** Members that every situation has: most shapes have no others, and are quick to look at. */
type Certain = Value<unknown, unknown> | Nested<unknown, Wrap> | Simple;

/** What the fields `F` write at endpoint `E` for audience `A`, `string` standing for any of them, in the edition of the names `Ed`. */
export type Out<
  F,
  E extends string = string,
  A extends string = string,
  Ed extends string = string,
  S = F,
> = F[Names<F>] extends Certain
  ? { [K in Names<F>]: Written<F[K], E, A, Ed, S> }
  : Join<SettleAll<F, E, A, Ed>, E, A, Ed, S>;
