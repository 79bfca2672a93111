/** A decimal or a whole number as one whole number, with so many of its digits behind the point; what is behind those is cut off. */
export const digitsOf = (text: string, scale: number): bigint => {
  const [whole = '0', fraction = ''] = text.split('.');
  return BigInt(whole + fraction.padEnd(scale, '0').slice(0, scale));
};

/** The decimal of such digits. */
export const decimalOf = (digits: bigint, scale: number): string => {
  if (scale === 0) return String(digits);
  const sign = digits < 0n ? '-' : '';
  const text = String(digits < 0n ? -digits : digits).padStart(scale + 1, '0');
  return `${sign}${text.slice(0, -scale)}.${text.slice(-scale)}`;
};

/**
 * A decimal with all the places that its type has, as every store keeps it.
 *
 * @param text a decimal with no more places than that
 * @param scale the places
 * @example
 * withPlaces('12.5', 2) // => 12.50
 */
export const withPlaces = (text: string, scale: number): string => {
  const { length } = text.split('.')[1] ?? '';
  if (length >= scale) return text;
  return `${text}${length === 0 ? '.' : ''}${'0'.repeat(scale - length)}`;
};
