/** Where and for whom a member is: empty means everywhere, and for everybody. */
export interface Wherever {
  readonly name: string;
  readonly audiences: readonly string[];
  readonly endpoints: readonly string[];
}

/** A member that is wished for. */
export type DraftMember =
  | ({ readonly kind: 'column'; readonly column: string } & Wherever)
  | ({ readonly kind: 'count'; readonly link: string } & Wherever)
  | ({ readonly kind: 'nest'; readonly link: string; readonly members: readonly DraftMember[] } & Wherever)
  /** The members of the row behind a to-one link, among those of this row. */
  | { readonly kind: 'flat'; readonly link: string; readonly members: readonly DraftMember[] };

/** A column that requests set. */
export interface DraftTaken {
  readonly column: string;
  readonly isOptional: boolean;
}

/** A shape, and an input, as they are wished for on the board. */
export interface DraftWish {
  readonly entity: string;
  /** What the shape is called. */
  readonly name: string;
  readonly members: readonly DraftMember[];
  readonly takes: readonly DraftTaken[];
  /** Whom the response is shown for, and at which endpoint; null: callers of no audience, nowhere. */
  readonly audience: string | null;
  readonly endpoint: string | null;
  /** The row that is shown; null: the first. */
  readonly key: string | null;
  /** Where the module with the model is, as the draft imports it. */
  readonly model: string;
}
