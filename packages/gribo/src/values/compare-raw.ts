import { digitsOf } from './decimals.js';

/** What JavaScript puts in order itself, a number and a bigint too; texts of it by their UTF-16 units. */
export const compareOrdered = <T extends string | number | bigint | boolean>(a: T, b: T): number => {
  if (a < b) return -1;
  return a > b ? 1 : 0;
};

/** Halves of characters stand in the middle of the units; the characters that they make stand behind all others. */
const place = (unit: number): number => {
  if (unit < 0xd800) return unit;
  return unit < 0xe000 ? unit + 0x2000 : unit - 0x800;
};

/** Texts by their code points, which is the order of their bytes in UTF-8. */
export const compareTexts = (a: string, b: string): number => {
  const shared = Math.min(a.length, b.length);
  for (let i = 0; i < shared; i++) {
    const difference = place(a.charCodeAt(i)) - place(b.charCodeAt(i));
    if (difference !== 0) return difference;
  }
  return a.length - b.length;
};

const scaleOf = (text: string): number => (text.split('.')[1] ?? '').length;

/** Compares two decimals exactly: `1.50` equals `1.5`. */
export const compareDecimals = (a: string, b: string): number => {
  const scale = Math.max(scaleOf(a), scaleOf(b));
  return compareOrdered(digitsOf(a, scale), digitsOf(b, scale));
};

export const compareBytes = (a: Uint8Array, b: Uint8Array): number => {
  const shared = Math.min(a.length, b.length);
  for (let i = 0; i < shared; i++) {
    const difference = (a[i] ?? 0) - (b[i] ?? 0);
    if (difference !== 0) return difference;
  }
  return a.length - b.length;
};
