import type { JsonValue } from '../../plan/condition.js';
import { handOut, handOutBroken, MemberRef } from '../references/member.js';
import type { Value } from '../types/member-types.js';

/**
 * A fixed value, the same for every row.
 *
 * @param value any JSON value
 * @example
 * constant('vessel')
 */
export const constant = <const V extends JsonValue>(value: V): Value<V, V> => {
  const text = stringified(value);
  if (text === undefined) return handOutBroken('constant takes a JSON value');
  return handOut(new MemberRef({ kind: 'constant', value: JSON.parse(text) }, null));
};

/** The JSON text of a value; undefined where it has none. */
const stringified = (value: unknown): string | undefined => {
  try {
    return JSON.stringify(value);
  } catch {
    return undefined;
  }
};
