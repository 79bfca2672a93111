import type { Passing, StatementFailure } from '../errors/statement-error.js';

/** Codes of the system, of connections that fail: `ECONNREFUSED`. */
const OF_SYSTEM = /^E(?!RR?_)[A-Z_]{3,}$/;

/** What drivers say, without a code, of connections that are not there or are gone. */
const OF_CONNECTION = /\bconnect(?:ion|ing)?\b|not queryable|pool is closed/i;

/**
 * What is known of an error of a driver.
 *
 * @param state the database's own code; empty where the error is not the database's
 * @param said the database's words, where they quote no value
 * @param passing what the database's code asks for
 */
export const failureOf = (
  error: unknown,
  state: string,
  said: string | null,
  passing: Passing | null,
): Pick<StatementFailure, 'state' | 'constraint' | 'said' | 'passing'> => {
  const { name, message } = error instanceof Error ? error : new Error(String(error));
  // What neither the database nor one of its values is in: the connection, the driver itself.
  const isOurs = state === '' || OF_SYSTEM.test(state);
  const isLost = OF_SYSTEM.test(state) || (state === '' && OF_CONNECTION.test(message));
  return {
    state: state === '' ? name : state,
    constraint: null,
    said: isOurs ? message : said,
    passing: passing ?? (isLost ? 'later' : null),
  };
};
