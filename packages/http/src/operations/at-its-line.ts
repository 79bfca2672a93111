import type { ConflictError } from 'gribo';
import { asProblem } from '../problems/as-problem.js';
import { Problem } from '../problems/problem.js';
import type { TakenRows } from '../request/read-rows.js';
import type { Exchange } from './exchange.js';

/** A conflict of one of many rows, with the line that it is in where it has one. */
export const atItsLine = (error: unknown, rows: TakenRows, { asked, takes, settings }: Exchange): unknown => {
  const { row = null } = error instanceof Error ? (error as Partial<ConflictError>) : {};
  const line = row === null ? undefined : rows.lineOf(row);
  if (line === undefined) return error;
  const { status, detail, errors, cause } = asProblem(error, { method: asked.method, takes }, settings.say);
  const placed = errors.map((issue) => ({ ...issue, line }));
  return new Problem(status, { ...(detail === null ? {} : { detail }), errors: placed, cause });
};
