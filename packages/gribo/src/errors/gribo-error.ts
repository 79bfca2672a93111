/** The closed set of codes; docs/errors.md says for each what it means and what to do. */
export type GriboErrorCode =
  | 'DECLARATION'
  | 'ROW_TYPE'
  | 'ROW_NULL'
  | 'ROW_MISSING'
  | 'ROW_RANGE'
  | 'ROW_FUNCTION'
  | 'ENGINE'
  | 'REQUEST'
  | 'CONFLICT'
  | 'CALLER'
  | 'RULE'
  | 'UNKNOWN'
  | 'MISUSE'
  | 'DATABASE'
  | 'STATEMENT'
  | 'UNAVAILABLE'
  | 'MALFORMED'
  | 'PROBLEM'
  | 'ENDED';

/**
 * The one class of errors that Gribo's packages throw, with those that extend it. Test `code`, not the class: it stays
 * right where two copies of the package are loaded.
 *
 * @example
 * try { write.json(rows) } catch (error) { if (error.code === 'ROW_TYPE') report(error.path) }
 */
export class GriboError extends Error {
  static {
    this.prototype.name = 'GriboError';
  }
  readonly code: GriboErrorCode;
  /** Where it happened, for example `VesselDetail.portCalls[2].eta`. */
  readonly path: string;

  constructor(code: GriboErrorCode, path: string, message: string, options?: ErrorOptions) {
    super(message, options);
    this.code = code;
    this.path = path;
  }
}
