import type { ColumnKind, ColumnType } from '../../plan/column-type.js';
import type { Apply, ConversionPlan } from '../../plan/conversion.js';
import { valueType } from '../../plan/value-type.js';
import { freeze } from '../../util/freeze.js';
import { Broken, handOut, handOutBroken, MemberRef, valueNode } from '../references/member.js';
import type { Carried } from '../types/carried.js';
import type { Sealed, Stored, Value } from '../types/member-types.js';

/** Keeps null where the value may be null. */
export type KeepNull<T, X> = null extends T ? X | null : X;

/** A converted value: nullable where it was, sealed where it was, and still of the same column. */
export type Converted<V, X> =
  V extends Stored<infer N, infer T, unknown>
    ? Stored<N, KeepNull<T, X>, KeepNull<T, X>>
    : ConvertedValue<V, X>;

type ConvertedValue<V, X> = Carried<V> &
  (V extends Value<infer T, unknown>
    ? Value<KeepNull<T, X>, KeepNull<T, X>>
    : V extends Sealed<infer T, unknown>
      ? Sealed<KeepNull<T, X>, KeepNull<T, X>>
      : never);

/** What there is to know of a conversion, whatever it is called with. */
export interface ConversionRule {
  readonly name: string;
  /** The kinds of values that it takes. */
  readonly takes: readonly ColumnKind[];
  /** What it makes of values of one type. */
  readonly yields: (type: ColumnType, choices: readonly unknown[]) => ColumnType;
  /** What a body holds that leads back to values of one type, where that is less than what is made of them. */
  readonly reads?: (type: ColumnType) => ColumnType;
  /** What is wrong with choices for values of one type; null where nothing is. */
  readonly refuses: (choices: readonly unknown[], type: ColumnType) => string | null;
  /** Whether what it makes may be shown where the column is sealed. Default: false. */
  readonly lifts?: true;
  /** The kinds of which there are values that it cannot show: each is an error for the row. Default: none. */
  readonly partial?: readonly ColumnKind[];
  /** Choices to try it with, for values of one type: the laws are held with each of them. */
  readonly tries: (type: ColumnType) => readonly (readonly unknown[])[];
  /**
   * What it does to a value. Its file exports the same function as `apply`: stand-alone serializers
   * import it from there.
   */
  readonly apply: Apply;
  /** The way back for values of one type, if there is one. */
  readonly invert: (type: ColumnType, choices: readonly unknown[]) => Apply | null;
}

/** For conversions that nothing is chosen for. */
export const takesNoChoices = (): null => null;
export const noChoices = (): readonly (readonly unknown[])[] => [[]];

/** For conversions that lead one way only. */
export const noWayBack = (): null => null;

/** Converts a value by a rule. What is wrong is told by the shape that the value ends up in. */
export const converted = <Seen>(rule: ConversionRule, value: unknown, ...choices: unknown[]): Seen => {
  const { name, takes, apply, lifts = false } = rule;
  const inner = valueNode(value, name);
  if (inner instanceof Broken) return handOutBroken(inner);
  const type = valueType(inner.node);
  if (!takes.includes(type.kind)) {
    return handOutBroken(`${name} takes ${takes.join(', ')}; this value is ${type.kind}`);
  }
  const refusal = rule.refuses(choices, type);
  if (refusal !== null) return handOutBroken(refusal);
  const invert = rule.invert(type, choices);
  const yields = freeze(rule.yields(type, choices));
  const conversion: ConversionPlan = freeze({
    name,
    apply,
    invert,
    choices: freeze(choices),
    yields,
    reads: rule.reads === undefined ? yields : freeze(rule.reads(type)),
    lifts,
  });
  const node = { kind: 'converted', input: inner.node, conversion } as const;
  return handOut(new MemberRef(node, inner.home, lifts ? [] : inner.seals));
};
