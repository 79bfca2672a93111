import type { EnvelopePlan, ListPlan, ShapePlan } from '../../plan/declared.js';
import type { BoundEntity } from '../entity/model.js';
import type {
  Cases,
  Either,
  Given,
  ListRef,
  Nested,
  Optional,
  RowBrand,
  Self,
  Value,
} from './member-types.js';
import type { Out } from './output.js';

declare const FIELDS: unique symbol;
declare const ITEMS: unique symbol;
declare const ENVELOPE: unique symbol;

type NullWrap<Wr> = Wr extends 'one' | 'oneOrNull' ? 'oneOrNull' : 'manyOrNull';

/** One member, reached through a row that may be missing. */
type NullableMember<M> =
  M extends Value<infer T, infer W>
    ? Value<T | null, W | null>
    : M extends Nested<infer F, infer Wr>
      ? Nested<F, NullWrap<Wr>>
      : M extends Self<infer Wr>
        ? Self<NullWrap<Wr>>
        : // What is left out where it is null is never shown as null.
          M extends Optional<unknown>
          ? M
          : M extends Given<infer C, infer X>
            ? Given<C, NullableMember<X>>
            : M extends Either<infer C, infer X, infer Y>
              ? Either<C, NullableMember<X>, NullableMember<Y>>
              : M extends Cases<infer C>
                ? Cases<NullableFields<C>>
                : NullableFields<M>;

/** The fields of a shape spread over a row that may be missing: each value may be null. */
export type NullableFields<F> = {
  readonly [K in keyof F as K extends symbol ? never : K]: NullableMember<F[K]>;
};

/**
 * A declared shape. Called inside another one, it nests over a link, or over the same row;
 * spread, its members merge.
 */
export interface Shape<M, K, F> extends ShapeOf<F, M, K> {
  <R>(over: CheckedPlace<R, M, K>): Over<R, F>;
}

/** What a shape may be called with, said in the words of the run time where it is something else. */
type CheckedPlace<R, M, K> = R extends RowBrand<M, K, boolean> | ListRef<M, K, boolean>
  ? R
  : `this is a shape over ${K & string}: call it with a row of it, or with a link to it`;

/** A shape over a row, nested; its members are there too, to be spread. */
export type NestedOne<F> = F & Nested<F, 'one'>;

/** A shape over a row that may be missing, nested; its members are there too, to be spread. */
export type NestedOneOrNull<F> = NullableFields<F> & Nested<F, 'oneOrNull'>;

/** What a shape is over a row or a link: nested; over a row its members too, to be spread. */
type Over<R, F> =
  R extends RowBrand<unknown, unknown, infer Null>
    ? true extends Null
      ? NestedOneOrNull<F>
      : NestedOne<F>
    : R extends ListRef<unknown, unknown, infer Null>
      ? Nested<F, true extends Null ? 'manyOrNull' : 'many'>
      : never;

/** A shape of the fields `F`, over the entity `K` of a model. */
export interface ShapeOf<F, M = unknown, K = unknown> {
  readonly [FIELDS]: readonly [F, M, K];
  readonly plan: ShapePlan;
  /** The entity that it is over, with its links. */
  readonly over: BoundEntity;
}

/** Many of one shape. */
export interface ListBody<F, M = unknown, K = unknown> {
  readonly [ITEMS]: readonly [F, M, K];
  readonly plan: ListPlan;
}

/** A page, or a body inside another literal, with its members `W`. */
export interface EnvelopeBody<W, M = unknown, K = unknown> {
  readonly [ENVELOPE]: readonly [W, M, K];
  readonly plan: EnvelopePlan;
}

/** The model that a body's rows are of. */
export type ModelIn<B> = B extends
  | ShapeOf<unknown, infer M, unknown>
  | ListBody<unknown, infer M, unknown>
  | EnvelopeBody<unknown, infer M, unknown>
  ? M
  : never;

/** The entity that a body's rows are of. */
export type EntityIn<B> = B extends
  | ShapeOf<unknown, unknown, infer K>
  | ListBody<unknown, unknown, infer K>
  | EnvelopeBody<unknown, unknown, infer K>
  ? K
  : never;

/** A shape, `list(shape)`, `page(shape)` or one of these wrapped. */
export type AnyBody = ShapeOf<unknown> | ListBody<unknown> | EnvelopeBody<unknown>;

/**
 * What a shape or body writes, exactly; members that depend on the situation are optional. For several endpoints or
 * audiences, one of what each is sent. `Ed` are the names of an edition and of all before it; left out, it is the newest.
 * @example
 * type VesselCard = Output<typeof VesselCard>;
 */
export type Output<
  B,
  E extends string = string,
  A extends string = string,
  Ed extends string = string,
> = E extends string
  ? A extends string
    ? B extends ListBody<infer F>
      ? Out<F, E, A, Ed>[]
      : B extends EnvelopeBody<infer W>
        ? Out<W, E, A, Ed>
        : B extends ShapeOf<infer F>
          ? Out<F, E, A, Ed>
          : never
    : never
  : never;
