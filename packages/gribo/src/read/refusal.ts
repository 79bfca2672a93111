import type { IssueCode, IssueLimits, Wanted } from './issue.js';

/** Why a value was not taken, as data. */
export class Refusal {
  readonly code: IssueCode;
  readonly wanted: Wanted;
  readonly limits: IssueLimits;

  /** Where in the value, as a pointer goes on, and what is there; null: it is about the value itself. */
  readonly inside: { readonly at: string; readonly value: unknown } | null;

  constructor(code: IssueCode, wanted: Wanted, limits: IssueLimits = {}, inside: Refusal['inside'] = null) {
    this.inside = inside;
    this.code = code;
    this.wanted = wanted;
    this.limits = limits;
  }
}
