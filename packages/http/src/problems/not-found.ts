import { Problem } from './problem.js';

/** What a path names is not there. */
export const notFound = (): Problem => new Problem(404, { detail: 'There is no such row.' });
