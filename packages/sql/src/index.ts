/**
 * A store on PostgreSQL, MariaDB, MySQL and SQLite: the query follows from the shape.
 *
 * @module @gribo/sql
 */
export { type AnswerDatabase, answerTable } from './answers/answer-table.js';
export type { MysqlClient, MysqlPool } from './dialects/mysql/mysql-connection.js';
export { type MysqlDialectOptions, mysqlDialect } from './dialects/mysql/mysql-dialect.js';
export type { PgClient, PgPool } from './dialects/postgres/pg-pool.js';
export { type EmbeddedPostgres, pgliteDialect } from './dialects/postgres/pglite-dialect.js';
export { type PostgresDialectOptions, postgresDialect } from './dialects/postgres/postgres-dialect.js';
export { StatementError } from './errors/statement-error.js';
export type { AnyKysely } from './kysely/any-kysely.js';
export type { Strategy } from './load/selecting.js';
export { openDatabase } from './open-database.js';
export { type Drift, drift } from './scan/drift.js';
export { type Scan, scan } from './scan/scan.js';
export type { ModelColumn, ModelEntity, ModelLink, ScannedModel } from './scan/scanned-model.js';
export { seemsSecret } from './scan/secret.js';
export type { SqlStoreOptions, Statement } from './store/options.js';
export { type SqlStore, sqlStore } from './store/sql-store.js';
