/**
 * The label of a seal that nobody has decided about yet: scans put it on columns whose names tell of secrets.
 *
 * @example
 * UNDECIDED // => undecided
 */
export const UNDECIDED = 'undecided';
