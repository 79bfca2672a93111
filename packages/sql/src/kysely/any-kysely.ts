import type { Kysely } from 'kysely';

/** Any Kysely: what its tables hold is what the model says. */
// biome-ignore lint/suspicious/noExplicitAny: a Kysely of any database will do, and only `any` says so
export type AnyKysely = Kysely<any>;
