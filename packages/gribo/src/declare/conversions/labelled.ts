import type { ColumnType } from '../../plan/column-type.js';
import { freeze } from '../../util/freeze.js';
import type { AnyValue, Sealed, Value } from '../types/member-types.js';
import { type ConversionRule, type Converted, converted } from './conversion.js';

/** Pairs of a choice and its label: a name that every object has may be a choice too. */
type Labels = readonly (readonly [choice: string, label: string])[];

export const apply = (choice: string, labels: Labels): string | undefined =>
  labels.find(([known]) => known === choice)?.[1];

const choiceOf = (label: string, labels: Labels): string | undefined =>
  labels.find(([, known]) => known === label)?.[0];

const labelsIn = ([labels]: readonly unknown[]): Labels => labels as Labels;

const choicesOf = (type: ColumnType): readonly string[] => (type.kind === 'oneOf' ? type.choices : []);

const distinct = (labels: Labels): readonly string[] => [...new Set(labels.map(([, label]) => label))];

export const rule: ConversionRule = {
  name: 'labelled',
  takes: ['oneOf'],
  yields: (_type, choices) => ({ kind: 'oneOf', choices: freeze(distinct(labelsIn(choices))) }),
  refuses: (choices, type) => {
    const labelled = labelsIn(choices).map(([choice]) => choice);
    const missing = choicesOf(type).filter((choice) => !labelled.includes(choice));
    const unknown = labelled.filter((choice) => !choicesOf(type).includes(choice));
    if (missing.length + unknown.length === 0) return null;
    const lack = missing.length > 0 ? ` it lacks ${missing.join(', ')}.` : '';
    const excess = unknown.length > 0 ? ` There is no choice ${unknown.join(', ')}.` : '';
    return `labelled needs one label for each choice:${lack}${excess}`;
  },
  tries: (type) => [
    [freeze(choicesOf(type).map((choice) => freeze([choice, `"${choice}"`] as const)))],
    [freeze(choicesOf(type).map((choice) => freeze([choice, 'any'] as const)))],
  ],
  apply,
  invert: (_type, choices) =>
    distinct(labelsIn(choices)).length === labelsIn(choices).length ? choiceOf : null,
};

type ChoicesOf<V> = V extends Value<infer T, unknown> | Sealed<infer T, unknown>
  ? NonNullable<T> & string
  : never;

/**
 * Shows each choice of a `oneOf` under a label. Where the labels differ, there is a way back.
 *
 * @param value a oneOf value
 * @param labels one label for every choice
 * @returns the label; what comes back is its choice
 * @example
 * labelled(p.licence, { A: 'any vessel', B: 'up to 180 m', C: 'up to 90 m' })
 */
export const labelled = <
  V extends AnyValue<string | null>,
  const L extends { readonly [C in ChoicesOf<V>]: string },
>(
  value: V,
  labels: L,
): Converted<V, L[keyof L] & string> =>
  converted(rule, value, freeze(Object.entries<string>(labels).map((pair) => freeze(pair))));
