import type { ColumnType } from '../plan/column-type.js';
import type { Figure, LookAtFigure } from '../plan/condition.js';
import { figureName } from '../plan/figure-name.js';
import { figures } from '../plan/figures.js';
import { decimalOf, digitsOf } from './decimals.js';
import { compareValues } from './orders.js';

/** So many more digits than the column has an average has after the point. */
const MORE_PLACES = 6;

const scaleOf = (type: ColumnType): number => (type.kind === 'decimal' ? type.scale : 0);

/** What comes of a figure over a column of a type; null where the type has no such figure. */
export const figureType = (how: Figure['how'], type: ColumnType): ColumnType | null => {
  if (how === 'minimum' || how === 'maximum')
    return ['integer', 'bigint', 'real', 'decimal', 'date', 'time', 'timestamp'].includes(type.kind)
      ? type
      : null;
  switch (type.kind) {
    case 'integer':
      return how === 'sum'
        ? { kind: 'integer', min: null, max: null }
        : { kind: 'real', min: null, max: null };
    case 'real':
      return { kind: 'real', min: null, max: null };
    case 'bigint':
      return how === 'sum'
        ? { kind: 'bigint', min: null, max: null }
        : { kind: 'decimal', precision: 38, scale: MORE_PLACES, min: null, max: null };
    case 'decimal':
      return {
        kind: 'decimal',
        precision: 65,
        scale: type.scale + (how === 'sum' ? 0 : MORE_PLACES),
        min: null,
        max: null,
      };
    default:
      return null;
  }
};

/**
 * The sum of values of a column; decimals and big whole numbers are exact.
 *
 * @param type the column's type
 * @param values accepted values, none of them null
 * @example
 * sumOf({ kind: 'decimal', precision: 6, scale: 2 }, ['0.10', '0.20']) // => 0.30
 */
export const sumOf = (type: ColumnType, values: readonly unknown[]): unknown => {
  switch (type.kind) {
    case 'bigint':
      return values.reduce<bigint>((sum, value) => sum + (value as bigint), 0n);
    case 'decimal': {
      const sum = values.reduce<bigint>((all, value) => all + digitsOf(String(value), type.scale), 0n);
      return decimalOf(sum, type.scale);
    }
    default:
      return values.reduce<number>((sum, value) => sum + Number(value), 0);
  }
};

/**
 * The average, from the sum of values and how many there were; null where there was none. Of decimals and big whole numbers
 * it is a decimal with six more places, rounded half away from zero.
 *
 * @param type the column's type
 * @example
 * averageOf({ kind: 'decimal', precision: 6, scale: 2 }, '1.00', 3) // => 0.33333333
 */
export const averageOf = (type: ColumnType, sum: unknown, many: number): unknown => {
  if (many === 0) return null;
  if (type.kind !== 'bigint' && type.kind !== 'decimal') return Number(sum) / many;
  const scale = scaleOf(type) + MORE_PLACES;
  const twice = digitsOf(String(sum), scale) * 2n;
  const half = twice < 0n ? -BigInt(many) : BigInt(many);
  return decimalOf((twice + half) / (2n * BigInt(many)), scale);
};

/**
 * A figure of values of a column; null where there are none, but for a sum, which is zero then.
 *
 * @param how which figure: `sum`, `average`, `minimum`, `maximum`
 * @param type the column's type
 * @param values accepted values, none of them null
 * @example
 * figureOf('maximum', { kind: 'integer', min: null, max: null }, [3, 7, 5]) // => 7
 */
export const figureOf = (how: Figure['how'], type: ColumnType, values: readonly unknown[]): unknown => {
  if (how === 'sum') return sumOf(type, values);
  if (how === 'average') return averageOf(type, sumOf(type, values), values.length);
  const wanted = how === 'minimum' ? -1 : 1;
  return values.reduce<unknown>(
    (best, value) => (best === null || compareValues(type, value, best) * wanted > 0 ? value : best),
    null,
  );
};

export const lookAtFigure: LookAtFigure = (row, { link, selection }, of, rows, value) => {
  const known = (row as { readonly [figures]?: Readonly<Record<string, unknown>> })[figures]?.[
    figureName({ link, selection, of })
  ];
  if (known !== undefined) return known;
  const values = Array.from(rows(), value).filter((each) => each !== null);
  return figureOf(of.how, of.column.type, values);
};
