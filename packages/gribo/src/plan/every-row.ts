import { freeze } from '../util/freeze.js';
import type { ListSelection } from './condition.js';

/** All rows of a link, in the order they were loaded. */
export const everyRow: ListSelection = freeze({
  where: freeze([]),
  sort: freeze([]),
  limit: null,
  name: '',
  pick: null,
});
