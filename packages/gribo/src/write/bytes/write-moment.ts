import { PAIRS } from './digit-pairs.js';

const DAY = 86400000;

// The punctuation between the digits, where it falls in each group of four bytes.
const DASHES = 0x2d | (0x2d << 24);
const COLON = 0x3a << 8;
const POINT = 0x2e;

/** The two digits of a value below 100. */
const pair = (value: number): number => PAIRS[value] ?? 0;

/** Writes a moment as JSON has it: what `momentDigits` writes, between quotes. */
export const writeMoment = (view: DataView, milliseconds: number, position: number): number => {
  view.setUint8(position, 34);
  momentDigits(view, milliseconds, position + 1);
  return position + 26;
};

/**
 * Writes a moment as `2026-03-01T06:30:00.000Z`, in UTC (RFC 3339, section 5.6), four bytes at a time; so there is a quote
 * behind it, which is not part of it. The civil date comes from the day count by arithmetic alone: years are taken to start
 * in March, so that the leap day is the last of its year, and 400 years have 146,097 days.
 *
 * @param milliseconds since 1970, in the years 0000 to 9999
 */
export const momentDigits = (view: DataView, milliseconds: number, position: number): number => {
  const dayCount = Math.floor(milliseconds / DAY);
  const shifted = dayCount + 719468;
  const era = Math.floor(shifted / 146097);
  const dayOfEra = shifted - era * 146097;
  const leapDays = ((dayOfEra / 1460) | 0) - ((dayOfEra / 36524) | 0) + ((dayOfEra / 146096) | 0);
  const yearOfEra = ((dayOfEra - leapDays) / 365) | 0;
  const dayOfYear = dayOfEra - (365 * yearOfEra + ((yearOfEra / 4) | 0) - ((yearOfEra / 100) | 0));
  const marchMonth = ((5 * dayOfYear + 2) / 153) | 0;
  const day = dayOfYear - (((153 * marchMonth + 2) / 5) | 0) + 1;
  const month = marchMonth < 10 ? marchMonth + 3 : marchMonth - 9;
  const year = (yearOfEra + era * 400 + (month <= 2 ? 1 : 0)) | 0;
  const century = (year / 100) | 0;
  // A whole number below 2^31: said so, divisions become multiplications.
  const clock = (milliseconds - dayCount * DAY) | 0;
  const seconds = (clock / 1000) | 0;
  const minutes = (seconds / 60) | 0;
  const hours = (minutes / 60) | 0;
  const rest = clock - seconds * 1000;
  const hundreds = (rest / 100) | 0;
  view.setUint32(position, pair(century) | (pair(year - century * 100) << 16), true);
  view.setUint32(position + 4, DASHES | (pair(month) << 8), true);
  view.setUint16(position + 8, pair(day), true);
  view.setUint16(position + 10, 0x54 | ((pair(hours) & 0xff) << 8), true);
  view.setUint32(position + 12, (pair(hours) >> 8) | COLON | (pair(minutes - hours * 60) << 16), true);
  view.setUint8(position + 16, 0x3a);
  view.setUint16(position + 17, pair(seconds - minutes * 60), true);
  view.setUint16(position + 19, POINT | ((48 + hundreds) << 8), true);
  view.setUint32(position + 21, pair(rest - hundreds * 100) | 0x225a0000, true);
  return position + 24;
};
