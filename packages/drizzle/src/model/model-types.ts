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

/** The names under which a schema has its tables, by their names in the database: made once, and looked up for each link. */
type NamesByStored<S> = { readonly [K in TableNames<S> as StoredName<S[K]>]: K };

/** The relations of a schema, by the names of their tables in the database. */
type RelationsByStored<S> = {
  readonly [K in keyof S as S[K] extends Relations<infer From> ? From : never]: S[K] extends Relations<
    string,
    infer Config
  >
    ? Config
    : never;
};

/** What a type has under a name; `never` where it has nothing. */
type Looked<T, N> = N extends keyof T ? T[N] : never;

/** What is looked up while links are made. */
interface Known<Names, Related> {
  readonly names: Names;
  readonly related: Related;
}
type KnownOf<S> = Known<NamesByStored<S>, RelationsByStored<S>>;

/** A link for a relation. Its columns are known when it runs; whether there may be no row is said by the relation. */
type LinkFor<Names, R> =
  R extends One<infer To, infer IsSet>
    ? ToOne<Looked<Names, To> & string, readonly [], IsSet extends true ? false : true>
    : R extends Many<infer To>
      ? ToMany<Looked<Names, To> & string>
      : never;

/** The links for relations. */
type LinksFor<Names, Config> = { readonly [N in keyof Config]: LinkFor<Names, Config[N]> };

/** The links of every table. */
type LinksOf<S, K extends Known<unknown, unknown>> = {
  readonly [T in TableNames<S>]: LinksFor<K['names'], Looked<K['related'], StoredName<S[T]>>>;
};

/** The types of the model of a schema: an entity for each table, a link for each relation. */
export type TypesOf<S, O> = ModelTypes<
  { readonly [K in TableNames<S>]: EntityDefinition<ColumnsWith<S[K], SaidOver<O, K>>> },
  LinksOf<S, KnownOf<S>>
>;
