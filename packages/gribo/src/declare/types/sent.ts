import type { Operation } from '../../plan/api-plan.js';
import type {
  ByEdition,
  DifferingFields,
  FieldsIn,
  HasEditions,
  InForce,
  PlainFields,
  Setters,
} from './edition-types.js';
import type { FileBody } from './file-types.js';
import type { Change, ChangeOf, InputList, Takable } from './input-types.js';
import type { Cases, Either, Given, Nested, Optional, Self, Value, Wrap } from './member-types.js';
import type { Flat, Simple } from './output.js';
import type { EnvelopeBody, ListBody, ShapeOf } from './shape-types.js';

/*
 * What an API keeps of its bodies: what they send, and what that depends on. It is written out wherever an API is
 * exported, so it is short: a value is the type that JSON shows, and what two operations share is there once.
 */

declare const AS: unique symbol;

/** `any` is everything, a group of members too: it has to stay a value. */
type IsAny<W> = 0 extends 1 & W ? true : false;

/** A member as an API keeps it. */
type SentMember<M> =
  M extends Nested<infer F, infer Wr extends Wrap>
    ? Nested<Sent<F>, Wr>
    : M extends Value<unknown, infer W>
      ? [IsAny<W>, W] extends [false, Simple]
        ? W
        : Value<W, W>
      : M extends Given<infer C, infer X>
        ? Given<C, SentMember<X>>
        : M extends Either<infer C, infer X, infer Y>
          ? Either<C, SentMember<X>, SentMember<Y>>
          : M extends Optional<infer X>
            ? Optional<SentMember<X>>
            : M extends Cases<infer C>
              ? Cases<Sent<C>>
              : M extends Self<infer Wr extends Wrap>
                ? Self<Wr>
                : Sent<M>;

/** The fields of a body as an API keeps them. The intersection makes the compiler write members, not this name. */
export type Sent<F> = { [K in keyof F as K extends symbol ? never : K]: SentMember<F[K]> } & {};

/** A body as an API keeps it; null where there is none. */
export type SentBody<B> =
  B extends Either<infer C, infer X, infer Y>
    ? Either<C, SentBody<X>, SentBody<Y>>
    : B extends Given<infer C, infer X>
      ? Either<C, SentBody<X>, null>
      : B extends FileBody<infer M, infer K>
        ? FileBody<M, K>
        : B extends ListBody<infer F, infer M, infer K>
          ? ListBody<Sent<F>, M, K>
          : B extends EnvelopeBody<infer W, infer M, infer K>
            ? EnvelopeBody<Sent<W>, M, K>
            : B extends ShapeOf<infer F, infer M, infer K>
              ? ShapeOf<Sent<F>, M, K>
              : null;

/** What is taken where a condition holds, and where it does not; null where nothing is, ever. */
type EitherTaken<C, X, Y> = [X, Y] extends [null, null] ? null : Either<C, X, Y>;

/** What an input, or a list of them, makes of what comes in; null where nothing is taken. */
export type TakenBy<I> =
  I extends Either<infer C, infer X, infer Y>
    ? EitherTaken<C, TakenBy<X>, TakenBy<Y>>
    : I extends Given<infer C, infer X>
      ? EitherTaken<C, TakenBy<X>, null>
      : I extends Takable
        ? TakenAlone<I>
        : null;

/** What one input makes of what comes in: the members that set something else by edition are kept as they are. */
type TakenAlone<I> = I extends { readonly fields?: infer F; readonly amends?: infer Amends }
  ? TakenBySetters<I, Setters<NonNullable<F>>, Amends>
  : Change<I>;

type TakenBySetters<I, F, Amends> =
  HasEditions<F> extends true
    ? ByMembers<
        ChangeOf<PlainFields<F>>,
        DifferingFields<F>,
        Amends,
        I extends InputList<unknown> ? true : false
      >
    : Change<I>;

/** What an input makes of what comes in, in any edition. */
export type TakenInAny<T> =
  T extends Either<unknown, infer X, infer Y>
    ? TakenInAny<X> | TakenInAny<Y>
    : T extends ByMembers<infer Plain, infer F, infer Amends, infer Many>
      ? Changes<Plain & ChangeOf<F>, Amends, Many>
      : T;

/** What an input makes of what comes in, in the edition of the names `Ed`. */
export type TakenIn<T, Ed extends string> =
  InForce<T, Ed> extends infer There
    ? There extends ByMembers<infer Plain, infer F, infer Amends, infer Many>
      ? Changes<Plain & ChangeOf<FieldsIn<F, Ed>>, Amends, Many>
      : There
    : never;

type Changes<One, Amends, Many> = Many extends true ? readonly Changed<One, Amends>[] : Changed<One, Amends>;

type Changed<One, Amends> = Amends extends true ? Partial<Flat<One>> : Flat<One>;

declare const MEMBERS: unique symbol;

/** An input that differs by edition: what its other members set, and those that differ. */
export interface ByMembers<Plain, F, Amends, Many> {
  readonly [MEMBERS]: readonly [Plain, F, Amends, Many];
}

/** What another operation of the same collection sends or takes. */
export interface As<P extends Operation> {
  readonly [AS]: P;
}

/** Whether two types are the very same. */
type Same<A, B> = (<T>() => T extends A ? 1 : 2) extends <T>() => T extends B ? 1 : 2 ? true : false;

/** What an operation says under a name, `returns` or `takes`; null where it says nothing. */
type Said<O, Name extends string> =
  O extends Either<infer C, infer X, infer Y>
    ? Either<C, Said<X, Name>, Said<Y, Name>>
    : O extends Given<infer C, infer X>
      ? Given<C, Said<X, Name>>
      : O extends { readonly [N in Name]: infer B }
        ? B
        : null;
type Returned<O> = Said<O, 'returns'>;
type Taken<O> = Said<O, 'takes'>;

/** What an operation sends: itself a body, or the body it returns. */
type SentBy<O> = O extends { readonly plan: unknown } | ByEdition<{ readonly plan: unknown }>
  ? SentBody<O>
  : SentBody<Returned<O>>;

/** What operation `P` sends; said once where `read` or `create` send the same. */
type SentOnce<O, P extends keyof O> = P extends 'create' | 'replace' | 'amend'
  ? Same<Returned<O[P]>, O extends { readonly read: infer B } ? B : never> extends true
    ? As<'read'>
    : P extends 'create'
      ? SentBy<O[P]>
      : Same<
            Returned<O[P]>,
            O extends { readonly create: { readonly returns: infer B } } ? B : never
          > extends true
        ? As<'create'>
        : SentBy<O[P]>
  : SentBy<O[P]>;

/** What operation `P` takes; said once where `create` takes the same. */
type TakenOnce<O, P extends keyof O> = P extends 'replace'
  ? Same<Taken<O[P]>, O extends { readonly create: { readonly takes: infer I } } ? I : never> extends true
    ? As<'create'>
    : TakenBy<Taken<O[P]>>
  : TakenBy<Taken<O[P]>>;

/** What goes out and what comes in. */
export interface Carries<Sends, Takes> {
  readonly sends: Sends;
  readonly takes: Takes;
}

/** The operations of a collection as an API keeps them. */
export type Carried<O> = Flat<{
  -readonly [P in keyof O & Operation]: Carries<SentOnce<O, P>, TakenOnce<O, P>>;
}>;

/** What operation `P` sends, wherever it is said. */
export type SendsAt<Ops, P extends keyof Ops> =
  Ops[P] extends Carries<infer B, unknown>
    ? B extends As<infer Q extends keyof Ops & Operation>
      ? SendsAt<Ops, Q>
      : B
    : never;

/** What operation `P` takes, wherever it is said. */
export type TakesAt<Ops, P extends keyof Ops> =
  Ops[P] extends Carries<unknown, infer T>
    ? T extends As<infer Q extends keyof Ops & Operation>
      ? TakesAt<Ops, Q>
      : T
    : never;
