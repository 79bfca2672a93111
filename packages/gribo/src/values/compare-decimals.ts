/** A decimal's digits as one whole number, with so many of them after the point. */
const scaled = (text: string, scale: number): bigint => {
  const [whole = '', fraction = ''] = text.split('.');
  return BigInt(whole + fraction.padEnd(scale, '0'));
};

const scaleOf = (text: string): number => (text.split('.')[1] ?? '').length;

/** Compares two decimals exactly: `1.50` equals `1.5`. */
export const compareDecimals = (a: string, b: string): number => {
  const scale = Math.max(scaleOf(a), scaleOf(b));
  const difference = scaled(a, scale) - scaled(b, scale);
  if (difference === 0n) return 0;
  return difference < 0n ? -1 : 1;
};
