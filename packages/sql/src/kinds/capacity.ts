/**
 * Where a value stands among those that a column can hold: among them, before the first or behind the last of
 * them, or nowhere in their order. `unsure`: only the database itself can tell.
 */
export type Standing = 'held' | 'below' | 'above' | 'nowhere' | 'unsure';

/** What a column of a database can hold. Null is never asked about. */
export interface Capacity {
  /** Where a value stands that the column is compared with. */
  compared(value: unknown): Standing;
  /** Whether the column can be set to a value; true where only the database itself can tell. */
  stores(value: unknown): boolean;
}

/** What holds every value of its kind. */
export const everything: Capacity = { compared: () => 'held', stores: () => true };

/** What nothing is known about. */
export const unknown: Capacity = { compared: () => 'unsure', stores: () => true };

/** Whether a value may be in a column, so far as is known. */
export const mayBeHeld = (standing: Standing): boolean => standing === 'held' || standing === 'unsure';

/** What sets and compares the same values. */
const alike = (compared: Capacity['compared']): Capacity => ({
  compared,
  stores: (value) => mayBeHeld(compared(value)),
});

/** Whole numbers within these bounds. */
export const wholeNumbers = (least: bigint, most: bigint): Capacity =>
  alike((value) => {
    // True and false are 1 and 0 to those that keep them as numbers.
    if (typeof value === 'boolean') return 'held';
    if (typeof value !== 'bigint' && !Number.isInteger(value)) return 'unsure';
    const number = value as number | bigint;
    if (number < least) return 'below';
    return number > most ? 'above' : 'held';
  });

/** Whole numbers of so many bits. */
export const integers = (bits: number, isUnsigned = false): Capacity => {
  const size = 2n ** BigInt(isUnsigned ? bits : bits - 1);
  return wholeNumbers(isUnsigned ? 0n : -size, size - 1n);
};

/** What a column can hold, where rows hold it as a number: no more than a number is exact for. */
export const asNumbers = ({ compared, stores }: Capacity): Capacity => ({
  compared,
  stores: (value) => (typeof value !== 'bigint' || Number.isSafeInteger(Number(value))) && stores(value),
});

/** Floating-point numbers of 32 bits: larger ones are none of them, and smaller ones than the least become zero. */
export const singles: Capacity = alike((value) => {
  if (typeof value !== 'number') return 'unsure';
  const single = Math.fround(value);
  if (!Number.isFinite(single)) return value > 0 ? 'above' : 'below';
  return single === 0 && value !== 0 ? 'nowhere' : 'held';
});

/** Decimals: any can be compared, but not every one fits. */
export const decimals = (precision: number, scale: number): Capacity => ({
  compared: () => 'held',
  stores: (value) => {
    const [, whole = ''] = /^-?0*(\d*)(?:\.\d+)?$/.exec(String(value)) ?? [];
    return whole.length <= precision - scale;
  },
});

/** How much of a text is counted, and which characters there are. */
export interface TextCapacity {
  /** The most characters; null: any number. */
  readonly characters?: number | null;
  /** The most bytes in UTF-8; null: any number. */
  readonly bytes?: number | null;
  /** Characters that it cannot hold, nor be compared with. */
  readonly without?: RegExp | null;
  /** Characters that it cannot hold, but that comparing knows what to do with. */
  readonly stored?: RegExp | null;
}

export const texts = ({
  characters = null,
  bytes = null,
  without = null,
  stored = null,
}: TextCapacity): Capacity => ({
  compared: (value) => (typeof value === 'string' && without?.test(value) === true ? 'nowhere' : 'held'),
  stores: (value) => {
    if (typeof value !== 'string') return true;
    if (without?.test(value) === true || stored?.test(value) === true) return false;
    // A character takes two units of a string at most, and three bytes a unit.
    if (characters !== null && value.length > characters && [...value].length > characters) return false;
    return bytes === null || value.length * 3 <= bytes || Buffer.byteLength(value) <= bytes;
  },
});

const UUID = /^[\da-f]{8}-[\da-f]{4}-[\da-f]{4}-[\da-f]{4}-[\da-f]{12}$/i;

/** UUIDs (RFC 9562), as text. */
export const uuids: Capacity = alike((value) =>
  typeof value === 'string' && UUID.test(value) ? 'held' : 'nowhere',
);

/** Times of day, kept to so many places of a second: what they make 24:00 of is none. */
export const clocks = (places: number): Capacity => ({
  compared: () => 'held',
  stores: (value) => {
    const [, seconds] = /^23:59:(59\.\d+)$/.exec(String(value)) ?? [];
    return seconds === undefined || Number(Number(seconds).toFixed(places)) < 60;
  },
});

/** One of these texts. */
export const choices = (labels: readonly string[]): Capacity =>
  alike((value) => (labels.includes(String(value)) ? 'held' : 'nowhere'));

/** Whether a text is a day of the calendar: there is no 30 February. */
const isDay = (text: string): boolean => {
  const day = new Date(`${text}T00:00:00Z`);
  return !Number.isNaN(day.getTime()) && day.toISOString().startsWith(text);
};

/** Days from one on, as text: `2026-03-01`. */
export const daysFrom = (first: string): Capacity =>
  alike((value) => {
    if (typeof value !== 'string' || !isDay(value)) return 'nowhere';
    return value < first ? 'below' : 'held';
  });

/** Moments between two. */
export const moments = (first: string, last = '9999-12-31T23:59:59.999Z'): Capacity => {
  const [least, most] = [Date.parse(first), Date.parse(last)];
  return alike((value) => {
    if (!(value instanceof Date)) return 'unsure';
    if (value.getTime() < least) return 'below';
    return value.getTime() > most ? 'above' : 'held';
  });
};

/** So many bytes at most. */
export const byteStrings = (most: number | null): Capacity => ({
  compared: () => 'held',
  stores: (value) => most === null || !(value instanceof Uint8Array) || value.length <= most,
});

/** Big whole numbers, which arrays may hold, are text in JSON. */
const wholeAsText = (_name: string, value: unknown): unknown =>
  typeof value === 'bigint' ? String(value) : value;

/** JSON values whose text does not have this in it. */
export const jsonWithout = (pattern: RegExp): Capacity =>
  alike((value) => (pattern.test(JSON.stringify(value, wholeAsText)) ? 'nowhere' : 'held'));
