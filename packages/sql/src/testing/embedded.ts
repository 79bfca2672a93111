import { PGlite } from '@electric-sql/pglite';
import { citext } from '@electric-sql/pglite/contrib/citext';
import type { EmbeddedPostgres } from '../dialects/postgres/pglite-dialect.js';

/** Takes everything out of it that tests may have made or set. */
const EMPTY = [
  'rollback',
  'discard all',
  `do $$ declare place text; begin
    for place in select nspname from pg_namespace where nspname !~ '^pg_' and nspname <> 'information_schema' loop
      execute format('drop schema %I cascade', place);
    end loop;
  end $$`,
  'create schema public',
];

let once: Promise<PGlite> | null = null;
let isLent = false;

const started = (): Promise<PGlite> => PGlite.create({ extensions: { citext } });

/** The one that is there, empty; it stays when it is closed, for whoever comes next. */
const lent = async (): Promise<EmbeddedPostgres> => {
  isLent = true;
  once ??= started();
  const embedded = await once;
  for (const statement of EMPTY) await embedded.exec(statement);
  return {
    waitReady: embedded.waitReady,
    query: (sql, parameters) => embedded.query(sql, parameters),
    close: async () => {
      isLent = false;
    },
  };
};

/**
 * An embedded PostgreSQL, empty: to start one takes a second, so that the tests of a process have one after the other the same. Whoever
 * wants another meanwhile has one of its own.
 */
export const embeddedPostgres = async (): Promise<EmbeddedPostgres> => (isLent ? started() : lent());
