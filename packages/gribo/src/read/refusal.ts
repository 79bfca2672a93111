import type { IssueCode, IssueLimits, Wanted } from './issue.js';

/** Why a value was not taken, as data. */
export class Refusal {
  readonly code: IssueCode;
  readonly wanted: Wanted;
  readonly limits: IssueLimits;

  constructor(code: IssueCode, wanted: Wanted, limits: IssueLimits = {}) {
    this.code = code;
    this.wanted = wanted;
    this.limits = limits;
  }
}
