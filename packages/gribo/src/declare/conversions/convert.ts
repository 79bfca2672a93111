import type { ColumnKind, ColumnType } from '../../plan/column-type.js';
import type { ConversionPlan } from '../../plan/conversion.js';
import { valueType } from '../../plan/value-type.js';
import { freeze } from '../../util/freeze.js';
import { Broken, handOut, handOutBroken, MemberRef, valueNode } from '../references/member.js';
import type { Carried } from '../types/carried.js';
import type { Sealed, Value } from '../types/member-types.js';

/** Keeps null where the value may be null. */
export type KeepNull<T, X> = null extends T ? X | null : X;

/** A converted value: nullable where it was, sealed where it was, and still of the same column. */
export type Converted<V, X> = Carried<V> &
  (V extends Value<infer T, unknown>
    ? Value<KeepNull<T, X>, KeepNull<T, X>>
    : V extends Sealed<infer T, unknown>
      ? Sealed<KeepNull<T, X>, KeepNull<T, X>>
      : never);

/** What a conversion makes of values of one type. */
export type MakeConversion = (type: ColumnType) => Omit<ConversionPlan, 'settings'> & {
  readonly settings?: ConversionPlan['settings'];
};

/** Any length and any letters: what a conversion of text yields. */
export const anyText: ColumnType = freeze({ kind: 'text', min: null, max: null, pattern: null });

/** Converts a value of one of these kinds; `lifts` says that what comes out is safe to show. */
export const convert = <Seen>(
  value: unknown,
  name: string,
  kinds: readonly ColumnKind[],
  make: MakeConversion,
  lifts = false,
): Seen => {
  const inner = valueNode(value, name);
  if (inner instanceof Broken) return handOutBroken(inner.message);
  const type = valueType(inner.node);
  if (!kinds.includes(type.kind)) {
    return handOutBroken(`${name} takes ${kinds.join(', ')}; this value is ${type.kind}`);
  }
  const conversion: ConversionPlan = freeze({ settings: freeze({}), ...make(type) });
  const node = { kind: 'converted', input: inner.node, conversion } as const;
  return handOut(new MemberRef(node, inner.home, lifts ? [] : inner.seals));
};
