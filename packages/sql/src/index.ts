export type { AnyKysely } from './any-kysely.js';
export type { Strategy } from './load/selecting.js';
export { type EmbeddedPostgres, pgliteDialect } from './pglite-dialect.js';
export { type SqlStoreOptions, type Statement, sqlStore } from './sql-store.js';
