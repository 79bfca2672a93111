import type {
  AllOf,
  AnyOf,
  Asks,
  Cases,
  Either,
  ForAudience,
  Given,
  Nested,
  NotThat,
  Optional,
  Self,
  Value,
  Wrap,
} from './member-types.js';
import type { LastPart, Names, Simple } from './output.js';
import type { EnvelopeBody, ListBody, ShapeOf } from './shape-types.js';

/*
 * What a body says of situations: the names of audiences, endpoints and members in it. A name that is written down is
 * checked against them; one that is only known when the program runs is not.
 */

/** The audiences, the names to ask for and the endpoints that decide about members. */
interface Named<A, N, E> {
  readonly audience: A;
  readonly asked: N;
  readonly endpoint: E;
}

/** What a condition names. */
type NamedByCondition<C> =
  C extends ForAudience<infer A>
    ? Named<A, never, never>
    : C extends Asks<infer N>
      ? Named<never, N, never>
      : C extends NotThat<infer X>
        ? NamedByCondition<X>
        : C extends AllOf<infer Cs> | AnyOf<infer Cs>
          ? NamedByCondition<Cs>
          : never;

/** What a member names, and those inside it. */
type NamedBy<M> =
  M extends Value<unknown, unknown>
    ? never
    : M extends Nested<infer F, Wrap>
      ? NamedBy<F[keyof F]>
      : M extends Given<infer C, infer X>
        ? NamedByCondition<C> | NamedBy<X>
        : M extends Either<unknown, infer X, infer Y>
          ? NamedBy<X> | NamedBy<Y>
          : M extends Optional<infer X>
            ? NamedBy<X>
            : M extends Cases<infer C>
              ? Named<never, never, keyof C> | NamedBy<C[keyof C]>
              : M extends Self<Wrap> | Simple
                ? never
                : NamedBy<M[keyof M]>;

type FieldsIn<B> =
  B extends ListBody<infer F>
    ? F
    : B extends EnvelopeBody<infer W>
      ? W
      : B extends ShapeOf<infer F>
        ? F
        : never;

type NamedIn<B> = FieldsIn<B> extends infer F ? NamedBy<F[keyof F]> : never;

type AudiencesIn<B> =
  NamedIn<B> extends infer Each
    ? Each extends Named<infer A, unknown, unknown>
      ? A & string
      : never
    : never;
type AsksIn<B> =
  NamedIn<B> extends infer Each
    ? Each extends Named<unknown, infer N, unknown>
      ? N & string
      : never
    : never;
type EndpointsIn<B> =
  NamedIn<B> extends infer Each
    ? Each extends Named<unknown, unknown, infer E>
      ? E & string
      : never
    : never;

/** The members that `fields` can begin with: of a page or a wrapped body, those of its items. */
type TopField<F> = F extends { readonly items: Nested<infer I, Wrap> }
  ? Names<I> & string
  : Names<F> & string;

/**
 * A name as it was given; the sentence about it where it is written down and known to nobody. What is only known when
 * the program runs is let be.
 */
type Checked<Given, Known, Sentence> = string extends Given
  ? Given
  : // While nothing is written yet, an editor completes names, and no sentence.
    Given extends ''
    ? never
    : [Extract<Given, Known>] extends [never]
      ? Sentence
      : Given;

type CheckedAudience<B, A> = [AudiencesIn<B>] extends [never]
  ? A
  : Checked<
      A,
      AudiencesIn<B> | null,
      `this body has nothing for "${A & string}": leave the audience out, or use situationOf(api, …)`
    >;

type CheckedEndpoint<B, E> = [EndpointsIn<B>] extends [never]
  ? E
  : 'otherwise' extends EndpointsIn<B>
    ? E
    : E extends string
      ? Checked<LastPart<E>, EndpointsIn<B>, 'none'> extends 'none'
        ? Checked<
            E,
            EndpointsIn<B>,
            `no member of this body is for "${E}": leave the endpoint out, or use situationOf(api, …)`
          >
        : E
      : E;

type CheckedAsked<B, N> = N extends string
  ? Checked<N, AsksIn<B>, `there is nothing called "${N}" to ask for`>
  : N;

type CheckedField<B, P> = P extends ''
  ? never
  : P extends string
    ? Checked<P extends `${infer Head}.${string}` ? Head : P, TopField<FieldsIn<B>>, 'none'> extends 'none'
      ? `there is no member "${P}"`
      : P
    : P;

/**
 * What a situation may be for a body: its names are completed, and one that is written down and known to nobody is
 * refused with a sentence. `A` is the audience, `E` the endpoint, `N` what is asked for, `P` the paths of fields.
 */
export interface SituationFor<B, A, E, N, P> {
  /** Which endpoint it is for: its full name, or the last part of it. */
  readonly endpoint?: CheckedEndpoint<B, E> | Exclude<EndpointsIn<B>, 'otherwise'>;
  /** Whom it is for; null, as where it is left out: a caller of no audience. */
  readonly audience?: CheckedAudience<B, A> | AudiencesIn<B> | null;
  /** The edition in which the API is asked. Left out: the newest. */
  readonly edition?: string;
  /** What the caller asked for with `?with=`. */
  readonly asked?: readonly (CheckedAsked<B, N> | AsksIn<B>)[];
  /** The only members that are wanted, as dotted paths. Left out: all of them. */
  readonly fields?: readonly (CheckedField<B, P> | TopField<FieldsIn<B>>)[];
}
