export { type EmbeddedPostgres, pgliteDialect } from './dialects/postgres/pglite-dialect.js';
export { StatementError } from './errors/statement-error.js';
export type { AnyKysely } from './kysely/any-kysely.js';
export type { Strategy } from './load/selecting.js';
export { openDatabase } from './open-database.js';
export { type Drift, drift } from './scan/drift.js';
export { type Scan, scan } from './scan/scan.js';
export type { ModelColumn, ModelEntity, ModelLink, ScannedModel } from './scan/scanned-model.js';
export { type SqlStore, type SqlStoreOptions, type Statement, sqlStore } from './store/sql-store.js';
