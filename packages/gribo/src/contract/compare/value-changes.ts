import { shownAs } from '../../describe/kinds.js';
import { compareDecimals } from '../../values/compare-raw.js';
import type { ContractValue } from '../contract.js';
import {
  type ChangeCode,
  type ContractChange,
  effectOf,
  type Relation,
  type Side,
} from './contract-change.js';

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

/** Gathers the changes of one value. */
class ValueComparing {
  readonly changes: ContractChange[] = [];
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

/** Limits of big whole numbers and of decimals are text. */
const compared = (is: Limit, was: Limit): number =>
  typeof is === 'string' && typeof was === 'string' ? compareDecimals(is, was) : Number(is) - Number(was);
const higher = (was: Limit, is: Limit): boolean => compared(is, was) > 0;
const lower = (was: Limit, is: Limit): boolean => compared(is, was) < 0;

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

/** What a least and a greatest limit are called, by what they limit. */
const EXTENT: Readonly<Partial<Record<Kind, string>>> = {
  text: 'length',
  bytes: 'size',
  array: 'number of values',
};

/** The limits of all kinds, by name: which way each of them tightens. */
type AnyLimits = { readonly kind: Kind } & Readonly<Partial<Record<'min' | 'max', Limit>>> & {
    readonly pattern?: string;
    readonly choices?: readonly string[];
    readonly precision?: number;
    readonly scale?: number;
    readonly of?: ContractValue;
  };

const wholeDigits = ({ precision, scale }: AnyLimits): number | undefined =>
  precision === undefined || scale === undefined ? undefined : precision - scale;

/** Compares the limits of two values of the same kind, whatever kind it is. */
const compareLimits = (was: AnyLimits, is: AnyLimits, comparing: ValueComparing): void => {
  const extent = EXTENT[was.kind] ?? 'value';
  comparing.limit(`least ${extent}`, was.min, is.min, higher);
  comparing.limit(`greatest ${extent}`, was.max, is.max, lower);
  comparing.limit('scale', was.scale, is.scale, lower);
  comparing.limit('number of digits before the point', wholeDigits(was), wholeDigits(is), lower);
  comparePattern(was.pattern, is.pattern, comparing);
  if (was.of !== undefined && is.of !== undefined) compareValue(was.of, is.of, comparing);
  compareChoices(was.choices ?? [], is.choices ?? [], comparing);
};

const compareValue = (before: ContractValue, after: ContractValue, comparing: ValueComparing): void => {
  if (before.kind === after.kind) return compareLimits(before, after, comparing);
  const message = `It is ${shownAs(after.kind)}; it was ${shownAs(before.kind)}.`;
  comparing.add('type-changed', kindRelation(before.kind, after.kind), message);
};

/** What changed about a value: its kind, or its limits. */
export const valueChanges = (
  before: ContractValue,
  after: ContractValue,
  path: string,
  side: Side,
): readonly ContractChange[] => {
  const comparing = new ValueComparing(path, side);
  compareValue(before, after, comparing);
  return comparing.changes;
};
