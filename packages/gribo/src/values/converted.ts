/** At most `length` code points, the last one `…` where something was cut. */
export const shortened = (text: string, length: number): string => {
  if (text.length <= length) return text;
  const points = Array.from(text.slice(0, 2 * length + 2));
  if (points.length <= length) return text;
  return `${points.slice(0, length - 1).join('')}…`;
};

const MASK = '•••';

/** The mask, and the last characters where the value is long enough to stay unknown. */
export const maskedText = (text: string, showLast: number): string => {
  const points = Array.from(text);
  if (showLast === 0 || points.length < 3 * showLast) return MASK;
  return MASK + points.slice(-showLast).join('');
};

export const roundedNumber = (value: number, places: number): number => {
  const text = value.toFixed(places);
  return Number(text);
};

/** Rounds decimal text half away from zero, without going through floating point. */
export const roundedDecimal = (text: string, places: number): string => {
  const negative = text.startsWith('-');
  const [whole = '', fraction = ''] = (negative ? text.slice(1) : text).split('.');
  const digits = BigInt(whole + fraction.slice(0, places).padEnd(places, '0'));
  const up = (fraction[places] ?? '0') >= '5' ? 1n : 0n;
  const all = String(digits + up).padStart(places + 1, '0');
  const point = all.length - places;
  const result = places === 0 ? all : `${all.slice(0, point)}.${all.slice(point)}`;
  return negative && digits + up !== 0n ? `-${result}` : result;
};

/** A bigint beyond 2^53 has no exact number: NaN, which the writer refuses as out of range. */
export const exactNumber = (value: bigint): number => {
  const number = Number(value);
  return Number.isSafeInteger(number) ? number : Number.NaN;
};
