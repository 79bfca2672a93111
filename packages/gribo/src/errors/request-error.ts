import { GriboError } from './gribo-error.js';

/** One thing that a caller asked for and cannot have. */
export interface RequestIssue {
  /** The part of the request: `fields`, `with`, `audience`, … */
  readonly parameter: string;
  /** `unknown`: there is no such name; `required`: it has to be there; the others: it is no such value. */
  readonly code:
    | 'unknown'
    | 'required'
    | 'type'
    | 'range'
    | 'length'
    | 'pattern'
    | 'choice'
    | 'format'
    | 'null';
  /** What was asked for. */
  readonly value: string;
  /** A sentence for the caller, with the nearest known names. */
  readonly message: string;
}

/**
 * A caller asked for something that is not there, or not for them. Nothing was written.
 *
 * @example
 * try { writer(VesselCard, { fields: ['nmae'] }) } catch (error) { report(error.issues) }
 */
export class RequestError extends GriboError {
  static {
    this.prototype.name = 'RequestError';
  }
  readonly issues: readonly RequestIssue[];

  constructor(issues: readonly RequestIssue[]) {
    super('REQUEST', issues[0]?.parameter ?? 'request', issues.map(({ message }) => message).join('\n'));
    this.issues = Object.freeze([...issues]);
  }
}
