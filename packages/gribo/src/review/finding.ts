/** What a review finds: docs/check.md says for each what it means and what to do. */
export type FindingCode =
  | 'unsealed'
  | 'everything'
  | 'unshown'
  | 'write-only'
  | 'no-audience'
  | 'unbounded'
  | 'heavy-list'
  | 'style'
  | 'overdue'
  | 'no-sample'
  | 'drift'
  | 'settled';

/** `error` and `warning` want something done; `note` is worth knowing. */
export type Severity = 'error' | 'warning' | 'note';

/** One thing that a review found. */
export interface ReviewFinding {
  readonly code: FindingCode;
  readonly severity: Severity;
  /** A column (`vessel.masterPhone`), a shape's member (`VesselCard.name`) or an endpoint's (`vessels.list/items[].name`). */
  readonly place: string;
  /** What is so, in a sentence. */
  readonly message: string;
  /** What to do about it, in a sentence. */
  readonly advice: string;
}

/** A finding that is all right, and why. */
export interface Accepted {
  readonly code: FindingCode;
  /** The finding's place; with `*` at its end, every place that starts so. */
  readonly place: string;
  readonly reason: string;
}
