import type { Native } from './dialect.js';

/** What compares as its kind does. */
export const asItsKind: Native = Object.freeze({
  isLoose: false,
  isInOrder: true,
  isSteady: true,
  keeps: 'itself',
});
