// The table of conversions: a row for each file. Its name in kebab case is that of the file; the laws walk it.
export { asNumber } from './as-number.js';
export { asText } from './as-text.js';
export { dateOnly } from './date-only.js';
export { epochSeconds } from './epoch-seconds.js';
export { labelled } from './labelled.js';
export { lower } from './lower.js';
export { masked } from './masked.js';
export { rounded } from './rounded.js';
export { shorten } from './shorten.js';
export { upper } from './upper.js';
