import type { Table } from 'drizzle-orm';
import type { Column, ColumnFlag } from 'gribo';
import type { InArray, Kind, Kinds } from './kinds.js';

/** What Drizzle's types say of a column, as far as a model needs it. */
interface Said {
  readonly columnType: string;
  readonly data: unknown;
  readonly notNull: boolean;
  readonly hasDefault: boolean;
  readonly isPrimaryKey: boolean;
  readonly isAutoincrement: boolean;
  readonly hasRuntimeDefault: boolean;
  readonly identity: 'always' | 'byDefault' | undefined;
  readonly generated: unknown;
  readonly baseColumn: unknown;
}

/** What the columns of a table say, by their names: `never` where that is not a table of Drizzle's. */
type ColumnsSaid<T> = T extends Table ? T['_']['columns'] : never;

/** What one column says. */
type SaidOf<C> = C extends { readonly _: infer S extends Said } ? S : never;

/** The kind of a class of columns; `never` where it has none. */
type KindOf<S extends Said> = S['columnType'] extends keyof Kinds ? Kinds[S['columnType']] : never;

/** The kinds whose values are others than Drizzle's, or are others in JSON: what a row holds, and what JSON shows. */
interface Own {
  readonly bigint: readonly [bigint, string];
  readonly bigintInBytes: readonly [bigint, string];
  readonly date: readonly [string, string];
  readonly timestamp: readonly [Date, string];
  readonly secondsOrMilliseconds: readonly [Date, string];
  readonly bytes: readonly [Uint8Array, string];
}

/** What a row holds of a column, and what JSON shows: as Drizzle says, but for a few kinds. */
type ValueOf<S extends Said, K extends Kind> = K extends keyof Own
  ? Own[K]
  : K extends 'array'
    ? ListOf<SaidOf<S['baseColumn']>>
    : readonly [S['data'], S['data']];

/** The same of an array, by what it holds; `never` where no array of a model holds that. */
type ListOf<S extends Said> =
  KindOf<S> extends infer K extends InArray
    ? [K] extends [never]
      ? never
      : readonly [readonly ValueOf<S, K>[0][], readonly ValueOf<S, K>[1][]]
    : never;

/** Whether no input sets a column: the database makes it, or a function of Drizzle's does. */
type IsMade<S extends Said> = S['identity'] extends string
  ? true
  : [S['generated']] extends [undefined]
    ? S['hasRuntimeDefault'] extends true
      ? true
      : S['isAutoincrement'] extends true
        ? true
        : S['columnType'] extends `${string}Serial${string}`
          ? true
          : S['isPrimaryKey'] extends true
            ? S['hasDefault']
            : false
    : true;

/** What the modifiers of a column say. */
type FlagsOf<S extends Said> =
  | (S['notNull'] extends true ? never : 'null')
  | (S['isPrimaryKey'] extends true ? 'key' : never)
  | (IsMade<S> extends true ? 'generated' : never);

/** The column of a model for one of Drizzle's; `never` where there is none. */
type ColumnFor<S extends Said> = [ValueOf<S, KindOf<S>>] extends [never]
  ? never
  : ValueOf<S, KindOf<S>> extends readonly [infer T, infer W]
    ? Column<T, W, FlagsOf<S>>
    : never;

/** The columns of a model for those of a table: those of which the kind is known. */
export type ColumnsIn<T> = {
  readonly [N in keyof ColumnsSaid<T> as [ColumnFor<SaidOf<ColumnsSaid<T>[N]>>] extends [never]
    ? never
    : N]: ColumnFor<SaidOf<ColumnsSaid<T>[N]>>;
};

/** Any column of a model. */
export type AnyColumn = Column<unknown, unknown, ColumnFlag>;

/** Columns by the names that a table has; null: not in the model. */
export type ColumnsOver<T> = { readonly [N in keyof ColumnsSaid<T>]?: AnyColumn | null };

/** Those of a table, with what was said over them. */
export type ColumnsWith<T, Over> = {
  readonly [N in keyof ColumnsIn<T> | keyof Over as N extends keyof Over
    ? Over[N] extends null
      ? never
      : N
    : N]: N extends keyof Over
    ? Over[N] extends AnyColumn
      ? Over[N]
      : never
    : N extends keyof ColumnsIn<T>
      ? ColumnsIn<T>[N]
      : never;
};
