import { valueType } from '../../plan/value-type.js';
import { freeze } from '../../util/freeze.js';
import { Broken, handOutBroken, valueNode } from '../references/member.js';
import type { AnyValue, Sealed, Value } from '../types/member-types.js';
import { type Converted, convert } from './convert.js';

type ChoicesOf<V> = V extends Value<infer T, unknown> | Sealed<infer T, unknown>
  ? NonNullable<T> & string
  : never;

/**
 * Shows each choice of a `oneOf` under a label. Where the labels differ, there is a way back.
 *
 * @param value a oneOf value
 * @param labels one label for every choice
 * @example
 * labelled(p.licence, { A: 'any vessel', B: 'up to 180 m', C: 'up to 90 m' })
 */
export const labelled = <
  V extends AnyValue<string | null>,
  const L extends { readonly [C in ChoicesOf<V>]: string },
>(
  value: V,
  labels: L,
): Converted<V, L[keyof L] & string> => {
  const inner = valueNode(value, 'labelled');
  if (inner instanceof Broken) return handOutBroken(inner.message);
  const type = valueType(inner.node);
  const byChoice = new Map<string, string>(Object.entries(labels));
  const choices = type.kind === 'oneOf' ? type.choices : [];
  const missing = choices.filter((choice) => !byChoice.has(choice));
  const unknown = [...byChoice.keys()].filter((choice) => !choices.includes(choice));
  if (type.kind === 'oneOf' && missing.length + unknown.length > 0) {
    const lack = missing.length > 0 ? ` it lacks ${missing.join(', ')}.` : '';
    const excess = unknown.length > 0 ? ` There is no choice ${unknown.join(', ')}.` : '';
    return handOutBroken(`labelled needs one label for each choice:${lack}${excess}`);
  }
  const byLabel = new Map([...byChoice].map(([choice, label]) => [label, choice]));
  return convert(value, 'labelled', ['oneOf'], () => ({
    name: 'labelled',
    settings: freeze({ labels: freeze({ ...labels }) }),
    yields: { kind: 'oneOf', choices: freeze([...byLabel.keys()]) },
    apply: (choice: string) => byChoice.get(choice),
    invert: byLabel.size === byChoice.size ? (label: string) => byLabel.get(label) : null,
  }));
};
