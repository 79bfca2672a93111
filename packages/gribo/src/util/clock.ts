/**
 * The clock of the program. It is asked once for whatever is done as one, a request or a change, and all of that goes by
 * what it said: so this is the only place that asks what moment it is.
 *
 * @example
 * clock() instanceof Date // => true
 */
export const clock = (): Date => new Date();
