import type { ContractValue } from '../contract.js';
import { type Change, type ChangeCode, effectOf, type Relation, type Side } from './change.js';

type Kind = ContractValue['kind'];

/** Changes of kind after which the old values are still among the possible ones. */
const WIDER: Readonly<Partial<Record<Kind, readonly Kind[]>>> = {
  oneOf: ['text'],
  uuid: ['text'],
  integer: ['real'],
};

const kindRelation = (before: Kind, after: Kind): Relation => {
  if (after === 'json' || WIDER[before]?.includes(after) === true) return 'wider';
  if (before === 'json' || WIDER[after]?.includes(before) === true) return 'narrower';
  return 'other';
};

const KIND_WORDS: Readonly<Record<Kind, string>> = {
  text: 'text',
  integer: 'a whole number',
  real: 'a number',
  bigint: 'a whole number as text',
  decimal: 'a decimal as text',
  bool: 'true or false',
  date: 'a day',
  time: 'a time of day',
  timestamp: 'a moment',
  uuid: 'a UUID',
  json: 'any JSON',
  bytes: 'bytes as base64',
  oneOf: 'one of a few choices',
};

/** How messages call a type. */
export const kindWords = (kind: Kind): string => KIND_WORDS[kind];

/** Gathers the changes of one value. */
class ValueComparing {
  readonly changes: Change[] = [];
  readonly #path: string;
  readonly side: Side;

  constructor(path: string, side: Side) {
    this.#path = path;
    this.side = side;
  }

  add(code: ChangeCode, relation: Relation, message: string): void {
    const effect = effectOf(this.side, relation);
    this.changes.push({ code, effect, path: this.#path, message });
  }

  limit(what: string, before: Bound, after: Bound, isTighter: (was: Limit, is: Limit) => boolean): void {
    if (before === after) return;
    const tightened = after !== undefined && (before === undefined || isTighter(before, after));
    const words = after === undefined ? `There is no ${what} any more` : `The ${what} is ${after}`;
    const was = before === undefined ? 'there was none' : `it was ${before}`;
    this.add(
      tightened ? 'limit-tightened' : 'limit-loosened',
      tightened ? 'narrower' : 'wider',
      `${words}; ${was}.`,
    );
  }
}

type Limit = number | string;
type Bound = Limit | undefined;

/** Limits of big whole numbers are text. */
const exact = (limit: Limit): number | bigint => (typeof limit === 'string' ? BigInt(limit) : limit);
const higher = (was: Limit, is: Limit): boolean => exact(is) > exact(was);
const lower = (was: Limit, is: Limit): boolean => exact(is) < exact(was);

const comparePattern = (
  before: string | undefined,
  after: string | undefined,
  comparing: ValueComparing,
): void => {
  if (before === after) return;
  if (after === undefined) {
    return comparing.add('pattern-changed', 'wider', 'No pattern is required any more.');
  }
  const message = `The pattern is ${after}; it was ${before ?? 'any text'}.`;
  if (before === undefined) return comparing.add('pattern-changed', 'narrower', message);
  // Of another pattern nobody knows which texts fit: those that are sent may be new, those that are taken old.
  comparing.add('pattern-changed', comparing.side === 'response' ? 'wider' : 'narrower', message);
};

const compareChoices = (
  before: readonly string[],
  after: readonly string[],
  comparing: ValueComparing,
): void => {
  for (const choice of before) {
    if (!after.includes(choice))
      comparing.add('choice-removed', 'narrower', `"${choice}" is no choice any more.`);
  }
  for (const choice of after) {
    if (!before.includes(choice)) comparing.add('choice-added', 'wider', `"${choice}" is a new choice.`);
  }
};

type OfKind<K extends Kind> = Extract<ContractValue, { kind: K }>;

/** Compares two values of the same kind. */
const compareSame = (before: ContractValue, after: ContractValue, comparing: ValueComparing): void => {
  switch (before.kind) {
    case 'text': {
      const now = after as OfKind<'text'>;
      comparing.limit('least length', before.min, now.min, higher);
      comparing.limit('greatest length', before.max, now.max, lower);
      return comparePattern(before.pattern, now.pattern, comparing);
    }
    case 'integer':
    case 'real':
    case 'bigint': {
      const now = after as OfKind<'integer' | 'bigint'>;
      comparing.limit('least value', before.min, now.min, higher);
      return comparing.limit('greatest value', before.max, now.max, lower);
    }
    case 'decimal': {
      const now = after as OfKind<'decimal'>;
      comparing.limit('scale', before.scale, now.scale, lower);
      const [was, is] = [before.precision - before.scale, now.precision - now.scale];
      return comparing.limit('number of digits before the point', was, is, lower);
    }
    case 'bytes':
      return comparing.limit('greatest size', before.max, (after as OfKind<'bytes'>).max, lower);
    case 'oneOf':
      return compareChoices(before.choices, (after as OfKind<'oneOf'>).choices, comparing);
    case 'bool':
    case 'date':
    case 'time':
    case 'timestamp':
    case 'uuid':
    case 'json':
      return;
    default:
      return before satisfies never;
  }
};

/** What changed about a value: its kind, or its limits. */
export const valueChanges = (
  before: ContractValue,
  after: ContractValue,
  path: string,
  side: Side,
): readonly Change[] => {
  const comparing = new ValueComparing(path, side);
  if (before.kind === after.kind) compareSame(before, after, comparing);
  else {
    const message = `It is ${KIND_WORDS[after.kind]}; it was ${KIND_WORDS[before.kind]}.`;
    comparing.add('type-changed', kindRelation(before.kind, after.kind), message);
  }
  return comparing.changes;
};
