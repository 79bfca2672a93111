import type { StatementFailure } from '../errors/statement-error.js';

/** Codes of the system, of connections that fail: `ECONNREFUSED`. */
const OF_SYSTEM = /^E[A-Z]{3,}$/;

/**
 * What is known of an error of a driver.
 *
 * @param state the database's own code; empty where the error is not the database's
 * @param said the database's words, where they quote no value
 */
export const failureOf = (
  error: unknown,
  state: string,
  said: string | null,
): Pick<StatementFailure, 'state' | 'constraint' | 'said'> => {
  const { name, message } = error instanceof Error ? error : new Error(String(error));
  // What neither the database nor one of its values is in: the connection, the driver itself.
  const isOurs = state === '' || OF_SYSTEM.test(state);
  return { state: state === '' ? name : state, constraint: null, said: isOurs ? message : said };
};
