import type { Column, ColumnFlag } from '../entity/column.js';
import type { InputList, InputOf, NestedInput, Preset, Settable, Waived } from './input-types.js';
import type { Either, Given } from './member-types.js';

/** A column that may stand among values. */
type ValueColumn = Column<unknown, unknown, ColumnFlag>;

/** What may stand among values, besides groups of it. */
export type ValueMember =
  | ValueColumn
  | Waived<unknown>
  | Preset<unknown>
  | Given<unknown, unknown>
  | Either<unknown, unknown, unknown>
  | InputOf<unknown>
  | InputList<unknown>;

/** The literal of values. */
export interface ValueFields {
  readonly [name: string]: ValueMember | ValueFields;
}

type NoValue = 'expected a column such as text(), a group of them, values(…) or list(values(…))';

type Primitive = string | number | bigint | boolean | symbol | null | undefined;

type CheckedValue<M> = M extends ValueMember ? M : M extends Primitive ? NoValue : CheckedValues<M>;

/** What the literal of values has to be: itself, or words for what is no member. */
export type CheckedValues<F> = F extends ValueFields ? F : { readonly [N in keyof F]: CheckedValue<F[N]> };

/** One of the values as a member of an input, under its own name. */
type NamedValue<N, M> =
  M extends Column<infer T, infer W, infer F>
    ? Settable<N, T, W, F>
    : M extends Waived<infer X>
      ? Waived<NamedValue<N, X>>
      : M extends Preset<infer X>
        ? Preset<NamedValue<N, X>>
        : M extends Given<infer C, infer X>
          ? Given<C, NamedValue<N, X>>
          : M extends Either<infer C, infer X, infer Y>
            ? Either<C, NamedValue<N, X>, NamedValue<N, Y>>
            : M extends InputList<infer F>
              ? NestedInput<N, F, true>
              : M extends InputOf<infer F>
                ? NestedInput<N, F, false>
                : NestedInput<N, NamedValues<M>, false>;

/** The fields of values as those of an input. The intersection makes the compiler write members, not this name. */
export type NamedValues<F> = { readonly [N in keyof F]: NamedValue<N, F[N]> } & {};
