import type { Many, One, Relations, Table } from 'drizzle-orm';
import type { EntityDefinition, ModelTypes, ToMany, ToOne } from 'gribo';
import type { ColumnsIn, ColumnsOver, ColumnsWith } from './column-types.js';

/** A schema of Drizzle's: tables and relations, under the names that its module exports them by. */
export type Schema = Readonly<Record<string, unknown>>;

/** The names of the tables. */
export type TableNames<S> = keyof { [K in keyof S as S[K] extends Table ? K : never]: true } & string;

/** What is said over columns, by table: given those that were found, others in their place. */
export type Over<S> = {
  readonly [K in TableNames<S>]?: (columns: ColumnsIn<S[K]>) => ColumnsOver<S[K]>;
};

/** What was said over the columns of one table. */
type SaidOver<O, K> = K extends keyof O
  ? O[K] extends (...given: never[]) => infer R
    ? R
    : unknown
  : unknown;

/** The name of a table in its database. */
type StoredName<T> = T extends Table ? T['_']['name'] : never;

/** The names under which a schema has the table of this name in the database. */
type NamesOf<S, Stored> = keyof {
  [K in TableNames<S> as StoredName<S[K]> extends Stored ? K : never]: true;
} &
  string;

/** The relations of the table of this name in the database. */
type RelationsOf<S, Stored> = {
  [K in keyof S]: S[K] extends Relations<infer From, infer Config>
    ? From extends Stored
      ? Config
      : never
    : never;
}[keyof S];

/** A link for a relation. Its columns are known when it runs; whether there may be no row is said by the relation. */
type LinkFor<S, R> =
  R extends One<infer To, infer IsSet>
    ? ToOne<NamesOf<S, To>, readonly [], IsSet extends true ? false : true>
    : R extends Many<infer To>
      ? ToMany<NamesOf<S, To>>
      : never;

/** The links for relations. */
type LinksFor<S, Config> = { readonly [N in keyof Config]: LinkFor<S, Config[N]> };

/** The types of the model of a schema: an entity for each table, a link for each relation. */
export type TypesOf<S, O> = ModelTypes<
  { readonly [K in TableNames<S>]: EntityDefinition<ColumnsWith<S[K], SaidOver<O, K>>> },
  { readonly [K in TableNames<S>]: LinksFor<S, RelationsOf<S, StoredName<S[K]>>> }
>;
