export type { AnyKysely } from './any-kysely.js';
export { type Drift, drift } from './drift.js';
export type { Strategy } from './load/selecting.js';
export { openDatabase } from './open-database.js';
export { type EmbeddedPostgres, pgliteDialect } from './pglite-dialect.js';
export { type Scan, scan } from './scan/scan.js';
export type { ModelColumn, ModelEntity, ModelLink, ScannedModel } from './scan/scanned-model.js';
export { type SqlStore, type SqlStoreOptions, type Statement, sqlStore } from './sql-store.js';
