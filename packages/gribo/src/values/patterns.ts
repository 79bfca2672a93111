/** Days: `2026-03-01`. The month and the day are within bounds; the calendar is not consulted. */
export const DAY: RegExp = /^\d{4}-(?:0[1-9]|1[0-2])-(?:0[1-9]|[12]\d|3[01])$/;

/** Times of day: `06:30`, `06:30:00`, `06:30:00.250`. */
export const CLOCK: RegExp = /^(?:[01]\d|2[0-3]):[0-5]\d(?::[0-5]\d(?:\.\d{1,9})?)?$/;

/**
 * Durations: `P1Y2M`, `P14D`, `PT6H30M`, `PT0.5S`; any part may be below zero. Years, months, weeks, days, hours, minutes, the
 * sign of the seconds, the seconds, and their fraction.
 */
export const DURATION: RegExp =
  /^P(?=.)(?:(-?\d{1,6})Y)?(?:(-?\d{1,6})M)?(?:(-?\d{1,6})W)?(?:(-?\d{1,7})D)?(?:T(?=.)(?:(-?\d{1,9})H)?(?:(-?\d{1,8})M)?(?:(-?)(\d{1,8})(?:\.(\d{1,6}))?S)?)?$/;

/** A moment with its offset (RFC 3339, section 5.6). */
export const MOMENT: RegExp =
  /^(\d{4}-\d\d-\d\d)[Tt]((?:[01]\d|2[0-3]):[0-5]\d:[0-5]\d)(\.\d{1,9})?([Zz]|[+-](?:[01]\d|2[0-3]):[0-5]\d)$/;

/** Whole numbers of any size, without zeros in front. */
export const WHOLE: RegExp = /^-?(?:0|[1-9]\d*)$/;

/** Decimal text as rows hold it: digits, with a sign and a fraction where there is one. */
export const DECIMAL: RegExp = /^-?\d+(?:\.\d+)?$/;

/** Decimal text as bodies hold it, in its sign, its digits before the point and those after it. */
export const DECIMAL_PARTS: RegExp = /^(-?)(0|[1-9]\d*)(?:\.(\d+))?$/;

/** A number of JSON (RFC 8259, section 6). */
export const JSON_NUMBER: RegExp = /^-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][+-]?\d+)?$/;

/** A UUID as text (RFC 9562). */
export const UUID: RegExp = /^[\da-f]{8}-[\da-f]{4}-[\da-f]{4}-[\da-f]{4}-[\da-f]{12}$/i;

/** Base64 with its padding, and no bits left over (RFC 4648, sections 4 and 3.5). */
export const BASE64: RegExp =
  /^(?:[A-Za-z\d+/]{4})*(?:[A-Za-z\d+/][AQgw]==|[A-Za-z\d+/]{2}[AEIMQUYcgkosw048]=)?$/;

/** Half of a character that takes two UTF-16 units. */
export const HALF: RegExp = /\p{Surrogate}/u;
