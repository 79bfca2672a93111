import pg from 'pg';

/** Tests that run beside each other have a schema each. */
const SCHEMA = `gribo_harbour_${process.env['MOCHA_WORKER_ID'] ?? '0'}`;

/**
 * What commands are told of where the harbour's rows are: on the server, where there is one, made anew. Each command would start
 * an embedded PostgreSQL of its own, which takes it three seconds.
 */
const made = async (): Promise<NodeJS.ProcessEnv> => {
  const server = process.env['GRIBO_POSTGRES'];
  if (server === undefined) return {};
  const client = new pg.Client(server);
  await client.connect();
  await client.query(`drop schema if exists ${SCHEMA} cascade`);
  await client.query(`create schema ${SCHEMA}`);
  await client.end();
  const url = new URL(server);
  url.searchParams.set('options', `-c search_path=${SCHEMA}`);
  return { HARBOUR_DATABASE: url.href };
};

let once: Promise<NodeJS.ProcessEnv> | null = null;

/** The environment of commands in the harbour: the first of them fills the database. */
export const harbourEnvironment = (): Promise<NodeJS.ProcessEnv> => {
  once ??= made();
  return once;
};
