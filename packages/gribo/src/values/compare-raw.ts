/** Texts by their UTF-16 units; numbers and truths in their own order. */
export const compareOrdered = <T extends string | number | bigint | boolean>(a: T, b: T): number => {
  if (a === b) return 0;
  return a < b ? -1 : 1;
};

/** A decimal's digits as one whole number, with so many of them after the point. */
const scaled = (text: string, scale: number): bigint => {
  const [whole = '', fraction = ''] = text.split('.');
  return BigInt(whole + fraction.padEnd(scale, '0'));
};

const scaleOf = (text: string): number => (text.split('.')[1] ?? '').length;

/** Compares two decimals exactly: `1.50` equals `1.5`. */
export const compareDecimals = (a: string, b: string): number => {
  const scale = Math.max(scaleOf(a), scaleOf(b));
  return compareOrdered(scaled(a, scale), scaled(b, scale));
};

export const compareBytes = (a: Uint8Array, b: Uint8Array): number => {
  const shared = Math.min(a.length, b.length);
  for (let i = 0; i < shared; i++) {
    const difference = (a[i] ?? 0) - (b[i] ?? 0);
    if (difference !== 0) return difference;
  }
  return a.length - b.length;
};
