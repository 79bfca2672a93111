import { conditionIn } from '../../editions/condition-in.js';
import type { Here } from '../../editions/here.js';
import { isAlways, isNever } from '../../plan/joined.js';
import type { ByEdition } from '../types/edition-types.js';
import { givenBehind } from './given-behind.js';
import { Broken } from './member.js';

/**
 * What stands in a declaration in one edition, where `given` may have been called with it.
 *
 * @returns the value itself where nothing was given; undefined where it is not there; `Broken` where more than the edition decides
 */
export const inForce = (value: unknown, here: Here): unknown => {
  const call = givenBehind(value);
  if (call === null) return value;
  const left = conditionIn(call.condition, here);
  if (isAlways(left)) return inForce(call.member, here);
  if (isNever(left)) return inForce(call.otherwise, here);
  return new Broken('only editions decide what there is here: given(editionFrom(…), …)');
};

/** Options without what `given` makes of them. */
type OptionsIn<O> = { readonly [N in keyof O]: Exclude<O[N], ByEdition<unknown>> };

/** The options of a declaration in one edition: those that are not there in it are left out. */
export const optionsIn = <O extends object>(
  options: O,
  here: Here,
  refuse: (name: string, broken: Broken) => void,
): OptionsIn<O> => {
  const left = Object.entries(options).flatMap(([name, value]): (readonly [string, unknown])[] => {
    const there = inForce(value, here);
    if (there instanceof Broken) refuse(name, there);
    return there === undefined || there instanceof Broken ? [] : [[name, there]];
  });
  // What is left of the options is some of them.
  return Object.fromEntries(left) as OptionsIn<O>;
};
