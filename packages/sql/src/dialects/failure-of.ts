import { classWords, type FailureCode } from '../errors/class-words.js';
import type { Passing, StatementFailure } from '../errors/statement-error.js';

/** Codes of the system, of connections that fail: `ECONNREFUSED`. */
const OF_SYSTEM = /^E(?!RR?_)[A-Z_]{3,}$/;

/** What drivers say, without a code, of connections that are not there or are gone. */
const OF_CONNECTION = /\bconnect(?:ion|ing)?\b|not queryable|pool is closed/i;

/** What the system says of where nobody was reached, beside its message. */
interface Reaching {
  readonly address?: string;
  readonly port?: number;
  /** Of a host with several addresses: one failure for each. */
  readonly errors?: readonly Reaching[];
}

/** Where nobody was reached; empty where the system does not say. */
const placeOf = (error: unknown): string => {
  const { address, port, errors = [] } = error as Reaching;
  if (typeof address === 'string') return ` (${address}${typeof port === 'number' ? `:${port}` : ''})`;
  return errors.length === 0 ? '' : placeOf(errors[0]);
};

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
    means: (isUnnamed ? 'the connection failed' : classWords(code)) + (isLost ? placeOf(error) : ''),
    words: message.match(/[\w$]+/g) ?? [],
    passing: passing ?? (isLost ? 'later' : null),
  };
};
