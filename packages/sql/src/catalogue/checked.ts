import { type ColumnType, compareDecimals, decimalOf, digitsOf } from 'gribo/kit';
import { type CheckFact, factsOfCheck } from './check.js';
import type { ScannedColumn } from './database-schema.js';

/** A whole number that is just within a bound that is not itself allowed. */
const within = ({ kind, bound }: { readonly kind: string; readonly bound: string }): bigint | null => {
  if (!/^-?\d+$/.test(bound)) return null;
  const step = kind === 'above' || kind === 'longer' ? 1n : kind === 'below' || kind === 'shorter' ? -1n : 0n;
  return BigInt(bound) + step;
};

const isLower = (kind: string): boolean => ['least', 'above', 'shortest', 'longer'].includes(kind);

type Bounded = { readonly min: number | bigint | null; readonly max: number | bigint | null };

/** The narrower of two bounds. */
const narrowed = <T extends Bounded>(type: T, isLeast: boolean, bound: number | bigint): T => {
  const known = isLeast ? type.min : type.max;
  const isWider = known !== null && (isLeast ? known > bound : known < bound);
  if (isWider) return type;
  return isLeast ? { ...type, min: bound } : { ...type, max: bound };
};

/** A decimal with what a fact says of its value; null where it cannot say that. */
const decimalWithin = (
  type: Extract<ColumnType, { kind: 'decimal' }>,
  fact: Extract<CheckFact, { bound: string }>,
): ColumnType | null => {
  const { kind, bound } = fact;
  const [, whole = '', fraction = ''] = /^-?(\d+)(?:\.(\d+))?$/.exec(bound) ?? [];
  const steps: Readonly<Record<string, bigint>> = { least: 0n, most: 0n, above: 1n, below: -1n };
  const step = steps[kind];
  if (whole === '' || step === undefined || fraction.length > type.scale) return null;
  if (whole.replace(/^0+/, '').length > type.precision - type.scale) return null;
  // What is above a bound is more by one in the last place at least.
  const text = step === 0n ? bound : decimalOf(digitsOf(bound, type.scale) + step, type.scale);
  const side = isLower(kind) ? 'min' : 'max';
  const known = type[side];
  const isWider =
    known !== null && (side === 'min' ? compareDecimals(known, text) > 0 : compareDecimals(known, text) < 0);
  return isWider ? type : { ...type, [side]: text };
};

/** Pieces of patterns that mean something else, or nothing, to JavaScript. */
const FOREIGN = /\[\[:|\\[mMyYAZ]|\(\?[^:=!]|\*\+|\+\+|\?\+/;

const patterned = (type: ColumnType, pattern: string): ColumnType | null => {
  if (type.kind !== 'text' || type.pattern !== null || FOREIGN.test(pattern)) return null;
  try {
    return { ...type, pattern: new RegExp(pattern) };
  } catch {
    return null;
  }
};

/** A type with what a fact says of it; null where it cannot say that. */
const withFact = (type: ColumnType, fact: CheckFact): ColumnType | null => {
  if (fact.kind === 'pattern') return patterned(type, fact.pattern);
  if (fact.kind === 'choices')
    return type.kind === 'text' ? { kind: 'oneOf', choices: [...new Set(fact.choices)] } : null;
  const whole = within(fact);
  const isLeast = isLower(fact.kind);
  if (['shortest', 'longest', 'longer', 'shorter'].includes(fact.kind))
    return type.kind === 'text' && whole !== null && whole >= 0n
      ? narrowed(type, isLeast, Number(whole))
      : null;
  if (type.kind === 'bigint') return whole === null ? null : narrowed(type, isLeast, whole);
  if (type.kind === 'integer') return whole === null ? null : narrowed(type, isLeast, Number(whole));
  if (type.kind === 'decimal') return decimalWithin(type, fact);
  // What is just within a bound, no floating-point number says.
  if (type.kind === 'real' && (fact.kind === 'least' || fact.kind === 'most'))
    return narrowed(type, isLeast, Number(fact.bound));
  return null;
};

/** Columns with what checks say of them, and the checks that say something else. */
export interface Checked {
  readonly columns: readonly ScannedColumn[];
  readonly left: readonly string[];
}

/**
 * Makes checks into choices, limits and patterns, where they can be; each is understood as a whole, or left.
 *
 * @param length the names of functions that count the characters of a text
 */
export const checked = (
  columns: readonly ScannedColumn[],
  checks: readonly string[],
  length?: RegExp,
): Checked => {
  const types = new Map(columns.map(({ name, type }) => [name, type]));
  const left = checks.filter((check) => {
    const facts = factsOfCheck(check, length);
    if (facts === null || facts.length === 0) return true;
    const trial = new Map(types);
    for (const fact of facts) {
      const type = trial.get(fact.column) ?? null;
      const made = type === null ? null : withFact(type, fact);
      if (made === null) return true;
      trial.set(fact.column, made);
    }
    for (const [name, type] of trial) types.set(name, type);
    return false;
  });
  return { columns: columns.map((column) => ({ ...column, type: types.get(column.name) ?? null })), left };
};
