/** What a difference does to clients. `risky`: it breaks those that rely on what was so by chance. */
export type Effect = 'breaking' | 'risky' | 'safe';

/** What changed, from the side of clients: docs/diff.md says for each what it means. */
export type ChangeCode =
  | 'endpoint-removed'
  | 'endpoint-added'
  | 'endpoint-renamed'
  | 'endpoint-deprecated'
  | 'route-changed'
  | 'audience-removed'
  | 'audience-added'
  | 'parameter-removed'
  | 'parameter-added'
  | 'parameter-changed'
  | 'problem-removed'
  | 'problem-added'
  | 'problem-changed'
  | 'rows-changed'
  | 'page-changed'
  | 'body-removed'
  | 'body-added'
  | 'body-changed'
  | 'member-removed'
  | 'member-added'
  | 'member-deprecated'
  | 'members-reordered'
  | 'type-changed'
  | 'choice-removed'
  | 'choice-added'
  | 'limit-tightened'
  | 'limit-loosened'
  | 'pattern-changed'
  | 'null-added'
  | 'null-removed'
  | 'presence-loosened'
  | 'presence-tightened'
  | 'condition-changed'
  | 'preset-changed'
  | 'constant-changed';

/** One thing that changed in a body, or in what is around it. */
export interface ContractChange {
  readonly code: ChangeCode;
  readonly effect: Effect;
  /** The member's dotted name, `[]` standing for the items of a list; the parameter's name; or nothing. */
  readonly path: string;
  /** What is so now, in a sentence. */
  readonly message: string;
}

/** A change by its parts. */
export const changeOf = (
  code: ChangeCode,
  effect: Effect,
  path: string,
  message: string,
): ContractChange => ({
  code,
  effect,
  path,
  message,
});

/** Whose side a body is read on: clients read responses and write requests. */
export type Side = 'response' | 'request';

/** How the values that are possible now compare with those that were. */
export type Relation = 'wider' | 'narrower' | 'other';

const EFFECTS: Readonly<Record<Side, Readonly<Record<Relation, Effect>>>> = {
  response: { wider: 'risky', narrower: 'safe', other: 'breaking' },
  request: { wider: 'safe', narrower: 'breaking', other: 'breaking' },
};

/** What it means for clients that more, fewer or other values are possible. */
export const effectOf = (side: Side, relation: Relation): Effect => EFFECTS[side][relation];
