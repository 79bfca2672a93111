import { isText } from './checks.js';
import { DURATION } from './patterns.js';

const SECOND = 1_000_000n;
const MINUTE = 60n * SECOND;
const HOUR = 60n * MINUTE;

const numberOf = (digits: string | undefined): number => Number(digits ?? 0);
const bigOf = (digits: string | undefined): bigint => BigInt(digits ?? 0);

/** What is not zero, with its letter. */
const part = (count: number | bigint, letter: string): string =>
  Number(count) === 0 ? '' : `${count}${letter}`;

/** Seconds with their fraction, from microseconds. */
const secondsText = (micros: bigint): string => {
  if (micros === 0n) return '';
  const size = micros < 0n ? -micros : micros;
  const fraction = String(size % SECOND)
    .padStart(6, '0')
    .replace(/0+$/, '');
  return `${micros < 0n ? '-' : ''}${size / SECOND}${fraction === '' ? '' : `.${fraction}`}S`;
};

/**
 * A duration in the one way that it is written (ISO 8601-1, 5.5.2): months in years and months, weeks in days, the rest in hours,
 * minutes and seconds. Months, days and hours are not made of each other: how long they are depends on when they begin.
 *
 * @param value any value
 * @returns the text; undefined for what is no duration
 * @example
 * durationText('P2WT90M') // => P14DT1H30M
 */
export const durationText = (value: unknown): string | undefined => {
  const found = isText(value) ? DURATION.exec(value) : null;
  if (found === null) return undefined;
  const [, y, m, w, d, h, min, sign, s, fraction = ''] = found;
  const months = numberOf(y) * 12 + numberOf(m);
  const days = numberOf(w) * 7 + numberOf(d);
  const seconds = bigOf(s) * SECOND + BigInt(fraction.padEnd(6, '0'));
  const micros = bigOf(h) * HOUR + bigOf(min) * MINUTE + (sign === '-' ? -seconds : seconds);
  const hours = micros / HOUR;
  // More than the pattern has digits for, once it is written in this way.
  if (Math.abs(months) > 11_999_999 || Math.abs(days) > 9_999_999 || Math.abs(Number(hours)) > 999_999_999)
    return undefined;
  const day = part(Math.trunc(months / 12), 'Y') + part(months % 12, 'M') + part(days, 'D');
  const time = part(hours, 'H') + part((micros % HOUR) / MINUTE, 'M') + secondsText(micros % MINUTE);
  if (time === '') return day === '' ? 'PT0S' : `P${day}`;
  return `P${day}T${time}`;
};
