import {
  type DialectAdapter,
  DummyDriver,
  Kysely,
  MysqlAdapter,
  MysqlQueryCompiler,
  PostgresAdapter,
  PostgresQueryCompiler,
  type QueryCompiler,
  type RawBuilder,
  SqliteAdapter,
  SqliteQueryCompiler,
  sql,
} from 'kysely';

/** A database that answers can be kept in. */
export type AnswerDatabase = 'postgres' | 'mysql' | 'sqlite';

/** How its columns are kept, and how its statements are written. */
interface Kind {
  readonly adapter: () => DialectAdapter;
  readonly compiler: () => QueryCompiler;
  /** A hash: letters that differ by their case only are different ones. */
  readonly hash: RawBuilder<unknown>;
  readonly text: RawBuilder<unknown>;
  readonly bytes: RawBuilder<unknown>;
  readonly moment: RawBuilder<unknown>;
}

const KINDS: Readonly<Record<AnswerDatabase, Kind>> = {
  postgres: {
    adapter: () => new PostgresAdapter(),
    compiler: () => new PostgresQueryCompiler(),
    hash: sql`varchar(43)`,
    text: sql`text`,
    bytes: sql`bytea`,
    moment: sql`timestamptz(3)`,
  },
  mysql: {
    adapter: () => new MysqlAdapter(),
    compiler: () => new MysqlQueryCompiler(),
    hash: sql`varchar(43) character set ascii collate ascii_bin`,
    text: sql`mediumtext`,
    bytes: sql`longblob`,
    moment: sql`datetime(3)`,
  },
  sqlite: {
    adapter: () => new SqliteAdapter(),
    compiler: () => new SqliteQueryCompiler(),
    hash: sql`varchar(43)`,
    text: sql`text`,
    bytes: sql`blob`,
    moment: sql`timestamp`,
  },
};

/**
 * The statements that make the table of `answerColumns()`, where answers to requests that may come again are kept; with the
 * indexes by which old ones are found and removed, and those of callers who are not known are counted.
 *
 * @param database which one: `postgres`, `mysql` (MariaDB too) or `sqlite`
 * @param table the table's name. Default: `kept_answer`
 * @returns statements, to be run in this order
 * @example
 * answerTable('sqlite')[1] // 'create index "kept_answer_at" on "kept_answer" ("at")'
 */
export const answerTable = (database: AnswerDatabase, table = 'kept_answer'): readonly string[] => {
  const { adapter, compiler, hash, text, bytes, moment } = KINDS[database];
  const kysely = new Kysely<Record<string, never>>({
    dialect: {
      createAdapter: adapter,
      createDriver: () => new DummyDriver(),
      createIntrospector: () => ({
        getSchemas: async () => [],
        getTables: async () => [],
        getMetadata: async () => ({ tables: [] }),
      }),
      createQueryCompiler: compiler,
    },
  });
  const { schema } = kysely;
  const made = schema
    .createTable(table)
    .addColumn('key', hash, (column) => column.notNull().primaryKey())
    .addColumn('body', hash, (column) => column.notNull())
    .addColumn('status', 'integer', (column) => column.notNull())
    .addColumn('headers', text, (column) => column.notNull())
    .addColumn('content', bytes)
    .addColumn('made', bytes)
    .addColumn('known', 'boolean', (column) => column.notNull())
    .addColumn('at', moment, (column) => column.notNull());
  const byAge = schema.createIndex(`${table}_at`).on(table).columns(['at']);
  const byKnown = schema.createIndex(`${table}_known`).on(table).columns(['known', 'at']);
  return [made, byAge, byKnown].map((statement) => statement.compile().sql);
};
