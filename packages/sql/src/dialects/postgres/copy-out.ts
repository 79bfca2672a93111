import { driver } from '../driver.js';
import type { CopyStream, PgClient, PgPool } from './pg-pool.js';

/** A statement as it is compiled: `$1` and so on stand for its parameters. */
export interface CopyStatement {
  readonly sql: string;
  readonly parameters: readonly unknown[];
}

/** Under this name a statement is planned for a moment, to know of what types its parameters are. */
const PROBE = 'gribo_copied';

/** Names and texts in a statement, which may have a dollar in them, and the marks of parameters. */
const MARKS = /"(?:[^"]|"")*"|'(?:[^']|'')*'|\$(\d+)/g;

const settingOf = (place: number): string => `gribo.p${place}`;

/** A value as text of its type; null has none. */
const textOf = (value: unknown): unknown =>
  value instanceof Uint8Array ? `\\x${Buffer.from(value).toString('hex')}` : value;

/** How values are written, whatever the session says: so far as the text of a row depends on it. */
const WRITTEN: Readonly<Record<string, string>> = {
  DateStyle: 'ISO, YMD',
  bytea_output: 'hex',
  client_encoding: 'UTF8',
  extra_float_digits: '3',
};

const typesOf = async (client: PgClient, { sql, parameters }: CopyStatement): Promise<readonly string[]> => {
  if (parameters.length === 0) return [];
  await client.query(`prepare ${PROBE} as ${sql}`);
  const asked = `select parameter_types::text[] as types from pg_prepared_statements where name = '${PROBE}'`;
  const rows: readonly { readonly types: string[] }[] = (await client.query(asked)).rows;
  await client.query(`deallocate ${PROBE}`);
  return rows[0]?.types ?? [];
};

/** Sets what holds for the transaction alone: how values are written, and the values of parameters. */
const settle = async (client: PgClient, { parameters }: CopyStatement): Promise<void> => {
  const given = parameters.flatMap((value, i): [string, unknown][] =>
    value === null ? [] : [[settingOf(i + 1), textOf(value)]],
  );
  const settings: [string, unknown][] = [...Object.entries(WRITTEN), ...given];
  const calls = settings.map((_setting, i) => `set_config($${2 * i + 1}, $${2 * i + 2}, true)`);
  await client.query(`select ${calls.join(', ')}`, settings.flat());
};

/** The statement with its values read from settings: COPY takes no parameters, and no value is spelled into it. */
const bound = ({ sql, parameters }: CopyStatement, types: readonly string[]): string =>
  sql.replace(MARKS, (all, mark: string | undefined) => {
    if (mark === undefined) return all;
    const place = Number(mark);
    const type = types[place - 1] ?? 'text';
    return parameters[place - 1] === null
      ? `null::${type}`
      : `current_setting('${settingOf(place)}')::${type}`;
  });

/**
 * The rows of a statement as PostgreSQL's COPY sends them, in one snapshot: a connection is held until the last of them, and
 * ended where they are not all wanted.
 *
 * @param pool a pool of `pg`
 */
export async function* copyOut(pool: PgPool, statement: CopyStatement): AsyncGenerator<Uint8Array> {
  const { to } = await driver<{ to(sql: string): CopyStream }>('pg-copy-streams');
  const client = await pool.connect();
  let isBroken = true;
  // A lost connection is told by the stream. As an event that nobody hears, it would end the process.
  const heard = (): void => undefined;
  client.on('error', heard);
  try {
    await client.query('begin read only');
    const types = await typesOf(client, statement);
    await settle(client, statement);
    yield* client.query(to(`copy (${bound(statement, types)}) to stdout`));
    await client.query('commit');
    isBroken = false;
  } finally {
    // One that is broken may tell of it later.
    if (!isBroken) client.removeListener('error', heard);
    client.release(isBroken);
  }
}
