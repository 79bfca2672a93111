import { exactNumber } from '../../values/converted.js';
import type { AnyValue } from '../types/member-types.js';
import { type Converted, convert } from './convert.js';

/**
 * A decimal or bigint as a JSON number. A decimal becomes the nearest number there is; a bigint
 * that no number holds exactly is a `RowError`.
 *
 * @param value a decimal or bigint value
 * @example
 * asNumber(v.grossTonnage)
 */
export const asNumber = <V extends AnyValue<string | null> | AnyValue<bigint | null>>(
  value: V,
): Converted<V, number> =>
  convert(value, 'asNumber', ['decimal', 'bigint'], (type) => ({
    name: 'asNumber',
    yields:
      type.kind === 'bigint'
        ? { kind: 'integer', min: null, max: null }
        : { kind: 'real', min: null, max: null },
    apply: (exact: never) => (type.kind === 'bigint' ? exactNumber(exact) : Number(exact)),
    // A decimal cannot come back: 0.1 + 0.2 says enough.
    invert: type.kind === 'bigint' ? (number: number) => BigInt(number) : null,
  }));
