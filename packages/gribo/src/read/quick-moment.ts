const DAYS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

/** The number that the digits from `at` on make; NaN where one is no digit. */
const digits = (text: string, at: number, many: number): number => {
  let value = 0;
  for (let i = at; i < at + many; i++) {
    const digit = text.charCodeAt(i) - 48;
    if (digit < 0 || digit > 9) return Number.NaN;
    value = value * 10 + digit;
  }
  return value;
};

const daysOf = (year: number, month: number): number => {
  const isLeap = year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0);
  return month === 2 && isLeap ? 29 : (DAYS[month - 1] ?? 0);
};

const hasMarks = (text: string): boolean =>
  text.charCodeAt(4) === 45 &&
  text.charCodeAt(7) === 45 &&
  text.charCodeAt(10) === 84 &&
  text.charCodeAt(13) === 58 &&
  text.charCodeAt(16) === 58 &&
  text.charCodeAt(text.length - 1) === 90;

/**
 * The moment of a text in the form that programs write, `2026-03-01T06:30:00Z` or with
 * milliseconds; undefined for every other one, right or wrong.
 */
export const quickMoment = (text: unknown): Date | undefined => {
  if (typeof text !== 'string' || (text.length !== 20 && text.length !== 24) || !hasMarks(text))
    return undefined;
  if (text.length === 24 && text.charCodeAt(19) !== 46) return undefined;
  const year = digits(text, 0, 4);
  const month = digits(text, 5, 2);
  const day = digits(text, 8, 2);
  const hours = digits(text, 11, 2);
  const minutes = digits(text, 14, 2);
  const seconds = digits(text, 17, 2);
  const milliseconds = text.length === 24 ? digits(text, 20, 3) : 0;
  // Below 100, Date.UTC takes a year for one of the last century. What is NaN fails each comparison.
  const isDate = year >= 100 && month >= 1 && month <= 12 && day >= 1 && day <= daysOf(year, month);
  if (!(isDate && hours < 24 && minutes < 60 && seconds < 60 && milliseconds < 1000)) return undefined;
  return new Date(Date.UTC(year, month - 1, day, hours, minutes, seconds, milliseconds));
};
