import type { Issue } from 'gribo';
import { Problem } from '../problems/problem.js';

/** The problem for a form, a field or a file that is too large. */
export const tooLarge = (detail: string, errors: readonly Issue[] = []): Problem =>
  new Problem(413, { detail, errors, headers: { connection: 'close' } });
