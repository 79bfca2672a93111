import type { Column, ColumnFlag } from '../entity/column.js';
import type { EntityDefinition } from '../entity/entity.js';
import type { Pairs, ToMany, ToOne, Via } from '../entity/links.js';
import type { EntityName, ModelTypes } from '../entity/model.js';

declare const VALUE: unique symbol;
declare const COLUMN: unique symbol;
declare const SEALED: unique symbol;
declare const SELF: unique symbol;
declare const CASES: unique symbol;
declare const GIVEN: unique symbol;
declare const EITHER: unique symbol;
declare const OPTIONAL: unique symbol;
declare const ROW: unique symbol;
declare const LIST: unique symbol;
declare const CONDITION: unique symbol;

/** A value of a row: `T` as the row holds it, `W` as JSON shows it. */
export interface Value<T, W> {
  readonly [VALUE]: readonly [T, W];
}

/** The value of a column, with its name after those of the links that lead to it: no two of them are of one type. */
export interface Stored<N, T, W> extends Value<T, W> {
  readonly [COLUMN]: N;
}

/**
 * A value under seal: no member until it is unsealed or masked. A type, not an interface: then
 * the compiler's refusal repeats the sentence.
 */
export type Sealed<T, W> = {
  readonly [SEALED]: readonly [T, W];
  readonly 'this column is sealed: wrap it in unseal(audience, …) or masked(…), or leave it out': true;
};

export type AnyValue<T = unknown> = Value<T, unknown> | Sealed<T, unknown>;

/** How a nested shape is there: one object, an object or null, an array, an array or null. */
export type Wrap = 'one' | 'oneOrNull' | 'many' | 'manyOrNull';

/**
 * A nested shape with its fields `F`. A class with a method, not an interface with a property:
 * a spread takes properties along, and spread fields must not look nested.
 */
export declare abstract class Nested<F, Wr extends Wrap> {
  '~nested'(): readonly [F, Wr];
}

/** The recursive shape inside itself. */
export interface Self<Wr extends Wrap> {
  readonly [SELF]: Wr;
}

/** One member, different at each endpoint. */
export interface Cases<C> {
  readonly [CASES]: C;
}

/** A member that is there where a condition holds. */
export interface Given<C, M> {
  readonly [GIVEN]: readonly [C, M];
}

/** One thing where a condition on editions holds, and another where it does not. */
export interface Either<C, M, N> {
  readonly [EITHER]: readonly [C, M, N];
}

/** A member that may be left out, as each row decides. */
export interface Optional<M> {
  readonly [OPTIONAL]: M;
}

/** Whatever may stand in a shape's literal, except a group. */
export type Member =
  | Value<unknown, unknown>
  | Nested<unknown, Wrap>
  | Self<Wrap>
  | Cases<unknown>
  | Given<unknown, unknown>
  | Either<unknown, unknown, unknown>
  | Optional<unknown>;

/** A shape's literal: members and groups of members. */
export type Fields = { readonly [name: string]: Member | Fields };

/** The row behind a shape; `Null` where there may be none. */
export interface RowBrand<M, K, Null extends boolean> {
  readonly [ROW]: readonly [M, K, Null];
}

/** The rows behind a to-many link; `Null` where the link is reached through a row that may be missing. */
export interface ListRef<M, K, Null extends boolean> {
  readonly [LIST]: readonly [M, K, Null];
}

type Or<A extends boolean, B extends boolean> = A extends true ? true : B;
type NullIf<T, Null extends boolean> = Null extends true ? T | null : T;

/** Whether a column may be null: its own flag, or the way to it. */
type IsNull<F extends ColumnFlag, Null extends boolean> = 'null' extends F ? true : Null;

/** What a row reference gives for one column, under its name `N`. */
type ColumnRef<C, Null extends boolean, N> =
  C extends Column<infer T, infer W, infer F>
    ? 'sealed' extends F
      ? Sealed<NullIf<T, IsNull<F, Null>>, NullIf<W, IsNull<F, Null>>>
      : Stored<N, NullIf<T, IsNull<F, Null>>, NullIf<W, IsNull<F, Null>>>
    : never;

/** The columns of one entity of a model. */
export type ColumnsOf<M extends ModelTypes, K extends EntityName<M>> =
  M['entities'][K] extends EntityDefinition<infer C> ? C : never;

/** The columns that are not sealed: the order of rows, or which there are, would show the others. */
export type OpenColumn<C> = keyof {
  [N in keyof C as C[N] extends Column<unknown, unknown, infer F>
    ? 'sealed' extends F
      ? never
      : N
    : never]: true;
} &
  string;

/** Whether a to-one link over this column, or one of these columns, may lead to no row. */
type ViaNull<C, V> = V extends keyof C
  ? C[V] extends Column<unknown, unknown, infer F>
    ? 'null' extends F
      ? true
      : false
    : never
  : V extends readonly string[]
    ? AnyNull<C, V[number]>
    : V extends Pairs
      ? AnyNull<C, keyof V>
      : true;

type AnyNull<C, Names> = true extends ViaNull<C, Names> ? true : false;

/** The names of an entity's to-one links. */
export type ToOneName<M extends ModelTypes, K> = K extends keyof M['links']
  ? keyof {
      [N in keyof M['links'][K] as M['links'][K][N] extends ToOne<string, Via, boolean> ? N : never]: true;
    } &
      string
  : never;

/** What a link leads to; `At` are the names of the links up to it. */
type LinkRef<M extends ModelTypes, K extends EntityName<M>, Link, Null extends boolean, At extends string> =
  Link extends ToOne<infer T extends EntityName<M> & string, infer V, infer O>
    ? LinkedRow<M, T, Or<Null, Or<O, ViaNull<ColumnsOf<M, K>, V>>>, At>
    : Link extends ToMany<infer T>
      ? ListRef<M, T, Null>
      : never;

/** What a shape's function is given: every column and every link of the row. */
export type Row<M extends ModelTypes, K extends EntityName<M>> = {
  readonly [C in keyof ColumnsOf<M, K>]: ColumnRef<ColumnsOf<M, K>[C], false, C>;
} & (K extends keyof M['links']
  ? { readonly [R in keyof M['links'][K]]: LinkRef<M, K, M['links'][K][R], false, R & string> }
  : unknown) &
  RowBrand<M, K, false>;

/** A row behind to-one links: `Null` where there may be none, `At` the names of the links. */
export type LinkedRow<
  M extends ModelTypes,
  K extends EntityName<M>,
  Null extends boolean,
  At extends string,
> = {
  readonly [C in keyof ColumnsOf<M, K>]: ColumnRef<ColumnsOf<M, K>[C], Null, `${At}.${C & string}`>;
} & (K extends keyof M['links']
  ? { readonly [R in keyof M['links'][K]]: LinkRef<M, K, M['links'][K][R], Null, `${At}.${R & string}`> }
  : unknown) &
  RowBrand<M, K, Null>;

/** A value that is made of values `V`: sealed where one of them is. */
export type MadeOf<V, T, W> = Extract<V, Sealed<unknown, unknown>> extends never ? Value<T, W> : Sealed<T, W>;

/** A value that rows hold as `T`, or the words for what is none. */
export type ValueOf<V, T, Words> = V extends AnyValue<T> ? V : Words;

/** Rows behind a to-many link, or the words for what are none. */
export type ManyRows<R, Words> = R extends ListRef<unknown, unknown, boolean> ? R : Words;

/** Conditions as types: who may satisfy them is known before a row is. */
export interface Condition<C> {
  readonly [CONDITION]: C;
}
/** What stands where a condition is wanted: one, or a to-many link, for that there are rows behind it. */
export type Conditional = Condition<unknown> | ListRef<unknown, unknown, boolean>;

/** What is known of a condition before there is a row. */
export type SaidBy<X> = X extends Condition<infer C> ? C : Sometimes;

/** Satisfied for these audiences. */
export interface ForAudience<Names extends string> {
  readonly audience: Names;
}
/** Satisfied in this edition and later ones. */
export interface FromEdition<Name extends string> {
  readonly fromEdition: Name;
}
/** Satisfied in the editions before this one. */
export interface BeforeEdition<Name extends string> {
  readonly beforeEdition: Name;
}
/** Satisfied or not, as the request or the row decides. */
export interface Sometimes {
  readonly sometimes: true;
}
/** Satisfied where the caller asked for it. */
export interface Asks<Name extends string> extends Sometimes {
  readonly asks: Name;
}
/** Satisfied where each of a union of conditions is. */
export interface AllOf<Cs> {
  readonly all: Cs;
}
/** Satisfied where one of a union of conditions is. */
export interface AnyOf<Cs> {
  readonly any: Cs;
}
export interface NotThat<C> {
  readonly not: C;
}

/** What the function is given: the values of its dependencies, in order. */
export type Arguments<A extends readonly unknown[]> = {
  -readonly [I in keyof A]: A[I] extends Value<infer T, unknown>
    ? T
    : A[I] extends Sealed<infer T, unknown>
      ? T
      : never;
};
