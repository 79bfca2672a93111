import {
  type ConflictError,
  type GriboError,
  pointerPart,
  type RequestError,
  type RuleError,
  type SayIssue,
} from 'gribo';
import { bareIssue, type InputPlan, spoken } from 'gribo/kit';
import { Problem } from './problem.js';
import { RETRY_AFTER } from './retry-after.js';

/** The code of an error of the library, by what it says: there may be two copies of the package. */
const codeOf = (error: unknown): GriboError['code'] | null => {
  const code = error instanceof Error ? (error as Partial<GriboError>).code : undefined;
  return typeof code === 'string' ? code : null;
};

/** The members of a body that set one of these columns of an entity, as JSON Pointers. */
const pointersTo = (plan: InputPlan, entity: string, columns: readonly string[], above = ''): string[] => {
  const walk = (fields: InputPlan['fields'], at: string): string[] =>
    fields.flatMap(({ name, node }) => {
      const pointer = at + pointerPart(name);
      if (node.kind === 'inputGroup') return walk(node.fields, pointer);
      if (node.kind === 'set') {
        return plan.entity.name === entity && columns.includes(node.column.name) ? [pointer] : [];
      }
      // Which of several rows it is, the store does not tell.
      const inside = pointersTo(node.input, entity, columns, pointer);
      return node.link.kind === 'toMany' && inside.length > 0 ? [pointer] : inside;
    });
  return walk(plan.fields, above);
};

/** What a request is for, so far as it matters to what is told of it. */
export interface Wanted {
  readonly method: string;
  /** The input of the endpoint, to say which members a conflict is about; null where it takes none. */
  readonly takes: InputPlan | null;
}

/** What to tell of a change that the store did not take: by members, never by its own words. */
const conflictProblem = (error: ConflictError, { method, takes }: Wanted, say: SayIssue): Problem => {
  const { reason, entity, columns, row } = error;
  const above = row === null || row === undefined ? '' : pointerPart(row);
  const found = takes === null ? [] : pointersTo(takes, entity, columns, above);
  // Of many rows, the one is told even where its members are not.
  const pointers = found.length === 0 && above !== '' ? [above] : found;
  const errors = pointers.map((pointer) =>
    spoken(bareIssue(pointer, 'conflict', { reason: { name: reason } }), say),
  );
  const isConflict = reason === 'duplicate' || reason === 'reference';
  const general =
    reason === 'reference' && method === 'DELETE'
      ? 'Others still need it.'
      : isConflict
        ? 'It does not fit what is stored already.'
        : 'A value is missing or is not taken.';
  return new Problem(isConflict ? 409 : 422, { detail: general, errors, cause: error });
};

/** What passes is told as such, and whether the change may be stored all the same. */
const unavailable = (error: unknown): Problem => {
  const isUnsure = (error as { readonly mayBeDone?: unknown }).mayBeDone === true;
  const detail = isUnsure
    ? 'The connection to the database was lost while it was stored. It may have been: look before it is sent again.'
    : 'It cannot be done right now, and nothing was changed. Try it again in a moment.';
  return new Problem(503, { detail, headers: RETRY_AFTER, cause: error });
};

/**
 * The problem to answer with for whatever was thrown. What is not meant for callers becomes a 500
 * that tells nothing; its cause goes to the log.
 *
 * @param wanted what the request is for
 * @param say puts issues into words
 */
export const asProblem = (error: unknown, wanted: Wanted, say: SayIssue): Problem => {
  if (error instanceof Problem) return error;
  const code = codeOf(error);
  if (code === 'REQUEST') {
    const { issues } = error as RequestError;
    return new Problem(400, { detail: 'The query has parameters that are wrong.', errors: issues });
  }
  if (code === 'RULE') {
    const { about } = error as RuleError;
    return new Problem(403, { detail: about ?? 'This is not yours to change, or would not be.' });
  }
  if (code === 'CALLER') return new Problem(403, { detail: 'This is not for you.', cause: error });
  if (code === 'CONFLICT') return conflictProblem(error as ConflictError, wanted, say);
  if (code === 'UNAVAILABLE') return unavailable(error);
  return new Problem(500, { detail: 'Something went wrong here.', cause: error });
};
