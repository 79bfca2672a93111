import type { Column } from '../entity/column.js';
import type { SetBy } from './carried.js';
import type { Change, InputLink, InputOf, NestedInput, NullIf, Preset, Waived } from './input-types.js';
import type { Either, Given, Value } from './member-types.js';
import type { Flat } from './output.js';

/** One thing that keeps a value from being taken, as the Standard Schema specification has it. */
export interface StandardIssue {
  readonly message: string;
  readonly path?: readonly PropertyKey[];
}

/** What a validation yields: a value, or issues. */
export type StandardResult<Output> =
  | { readonly value: Output; readonly issues?: undefined }
  | { readonly issues: readonly StandardIssue[] };

/** The interface of Standard Schema, version 1: what form libraries, routers and others take a schema by. */
export interface Standard<In, Out> {
  readonly version: 1;
  readonly vendor: 'gribo';
  readonly validate: (value: unknown) => StandardResult<Out>;
  /** Carries the types; there is nothing at run time. */
  readonly types?: { readonly input: In; readonly output: Out };
}

/** An input as a Standard Schema too: of a body as it is sent, and of the change that it yields. */
export interface StandardInput<F, Amends extends boolean, K> extends InputOf<F, Amends, K> {
  readonly '~standard': Standard<BodyIn<InputOf<F, Amends>>, Change<InputOf<F, Amends>>>;
}

/** What an input may be called with, said in the words of the run time where it is something else. */
type CheckedLink<L, M, K> =
  L extends InputLink<unknown, M, K, boolean>
    ? L
    : `this is an input over ${K & string}: call it with a link to it`;

/** A declared input. Called inside another one with a link, it nests. */
export interface Input<M, K, F> extends StandardInput<F, false, K> {
  <L>(
    link: CheckedLink<L, M, K>,
    /** Of a to-many link: the least and the most rows that a body may have. */
    limits?: { readonly min?: number; readonly max?: number },
  ): L extends InputLink<infer Name, M, K, infer Many> ? NestedInput<Name, F, Many> : never;
}

/** What the body has for one member. */
export type SentAs<M> =
  M extends Waived<infer X>
    ? SentAs<X>
    : M extends Preset<infer X> | Given<unknown, infer X>
      ? SentAs<X>
      : M extends Either<unknown, infer X, infer Y>
        ? SentAs<X> | SentAs<Y>
        : M extends NestedInput<unknown, infer F, infer Many>
          ? Many extends true
            ? BodyOf<F>[]
            : BodyOf<F>
          : M extends Column<unknown, infer W, infer F>
            ? NullIf<W, F>
            : M extends Value<unknown, infer W>
              ? W
              : M extends SetBy<unknown, infer T, unknown>
                ? T
                : BodyOf<M>;

type MayLack<M> = M extends Waived<unknown> | Preset<unknown> | Given<unknown, unknown>
  ? true
  : M extends Either<unknown, infer X, infer Y>
    ? MayLack<X> | MayLack<Y> extends false
      ? false
      : true
    : false;

/** The body that an input of the fields `F` reads. */
type BodyOf<F> = Flat<
  { -readonly [N in keyof F as MayLack<F[N]> extends true ? never : N]: SentAs<F[N]> } & {
    -readonly [N in keyof F as MayLack<F[N]> extends true ? N : never]?: SentAs<F[N]>;
  }
>;

/** A merge patch of the fields `F`: each may be left out, those in groups too. */
type PatchOf<F> = { -readonly [N in keyof F]?: PatchOfMember<F[N]> };

type PatchOfMember<M> =
  M extends Waived<infer X>
    ? PatchOfMember<X>
    : M extends Preset<infer X> | Given<unknown, infer X>
      ? PatchOfMember<X>
      : M extends Either<unknown, infer X, infer Y>
        ? PatchOfMember<X> | PatchOfMember<Y>
        : M extends
              | Value<unknown, unknown>
              | SetBy<unknown, unknown, unknown>
              | NestedInput<unknown, unknown, boolean>
          ? SentAs<M>
          : PatchOf<M>;

/**
 * The body that an input reads, as it is sent: members under the body's names, moments as text, what may be left out
 * optional. A merge patch has all members optional.
 * @example
 * type Body = BodyIn<typeof NewVessel>;
 */
export type BodyIn<I> =
  I extends InputOf<infer F, infer Amends> ? (Amends extends true ? PatchOf<F> : BodyOf<F>) : never;
