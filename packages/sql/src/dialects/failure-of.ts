import { classWords, type FailureCode } from '../errors/class-words.js';
import type { Passing, StatementFailure } from '../errors/statement-error.js';

/** Codes of the system, of connections that fail: `ECONNREFUSED`. */
const OF_SYSTEM = /^E(?!RR?_)[A-Z_]{3,}$/;

/** What drivers say, without a code, of connections that are not there or are gone. */
const OF_CONNECTION = /\bconnect(?:ion|ing)?\b|not queryable|pool is closed/i;

/**
 * What is known of an error of a driver.
 *
 * @param code the database's own code; its state is empty where the error is not the database's
 * @param passing what the database's code asks for
 */
export const failureOf = (
  error: unknown,
  code: FailureCode,
  passing: Passing | null,
): Pick<StatementFailure, 'state' | 'constraint' | 'means' | 'words' | 'passing'> => {
  const { name, message } = error instanceof Error ? error : new Error(String(error));
  const { state } = code;
  const isLost = OF_SYSTEM.test(state) || (state === '' && OF_CONNECTION.test(message));
  const isUnnamed = isLost && state === '';
  return {
    state: state === '' ? name : state,
    constraint: null,
    means: isUnnamed ? 'the connection failed' : classWords(code),
    words: message.match(/[\w$]+/g) ?? [],
    passing: passing ?? (isLost ? 'later' : null),
  };
};
