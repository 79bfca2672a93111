import { GriboError, type GriboErrorCode } from './gribo-error.js';

/** The codes of a row that does not fit its declaration. */
export type RowErrorCode = Extract<GriboErrorCode, `ROW_${string}`>;

/**
 * A row does not hold what the entity declares. `path` names the place in the response,
 * the message says what was expected and what came, and never shows a sealed value.
 *
 * @example
 * // VesselDetail.portCalls[2].eta: expected a Date, got "soon"
 */
export class RowError extends GriboError {
  static {
    this.prototype.name = 'RowError';
  }
  /** What was expected there, as in the message. */
  readonly expected: string;

  constructor(code: RowErrorCode, path: string, expected: string, came: string, options?: ErrorOptions) {
    super(code, path, `${path}: ${expected}${came}`, options);
    this.expected = expected;
  }
}
