import { RowError } from '../errors/row-error.js';
import type { ResolvedShape } from '../plan/resolved.js';
import { Misfit } from '../values/misfit.js';
import { Halt } from './generated/halt.js';
import { Interpreter } from './interpreted/interpret.js';
import type { Facts } from './read-value.js';

const changing = ', got another; read again, the row was right: does a getter or function change its answer?';

/** What is wrong with a row, found by interpreting it; null where nothing is. */
const misfitOf = (shape: ResolvedShape, row: unknown, facts: Facts): unknown => {
  try {
    new Interpreter().shape(shape)(row, facts);
    return null;
  } catch (error) {
    return error;
  }
};

/**
 * The error that callers see for what an engine stumbled over. Engines only stop; the
 * interpreter, given the same row again, finds the place and the words.
 *
 * @param where the row's place in the response: `[3]` in a list
 */
export const explain = (
  error: unknown,
  shape: ResolvedShape,
  row: unknown,
  where: string,
  facts: Facts,
): unknown => {
  const found = misfitOf(shape, row, facts) ?? error;
  if (found instanceof Misfit) return found.toRowError(shape.name + where);
  if (!(found instanceof Halt)) return found;
  return new RowError('ROW_TYPE', found.member, 'expected a value of its type', changing);
};
