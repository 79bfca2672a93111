import { type ConflictReason, GriboError } from 'gribo';

/**
 * What a failure that is nobody's mistake asks for: that the whole transaction is run again, at once, or that it is tried later, for
 * there is no connection, no room or no leave now.
 */
export type Passing = 'again' | 'later';

/** What is known of a statement that failed, without any value of it. */
export interface StatementFailure {
  /** The SQLSTATE, the database's own number, or the code of the connection. */
  readonly state: string;
  /** The constraint that was broken, where the database itself says so; null where it names none. */
  readonly constraint: string | null;
  /** What its class means, in our words. */
  readonly means: string;
  /** The words of what the database says, of which nothing is told but names that stand in the statement itself. */
  readonly words: readonly string[];
  /** What does not fit, where it is about a change; null for anything else. */
  readonly violation: Violation | null;
  /** Whether it is about a value that is none of its column's. */
  readonly isAboutValue: boolean;
  /** Null: it would fail again. */
  readonly passing: Passing | null;
}

/** What does not fit of a change: columns by their stored names. */
export interface Violation {
  readonly reason: ConflictReason;
  readonly columns: readonly string[];
}

/** A name as a statement quotes it, in whichever dialect. */
const quotedIn = (statement: string, word: string): boolean =>
  statement.includes(`"${word}"`) || statement.includes(`\`${word}\``);

/** Names that we give to tables within a statement: nobody looks for them. */
const OURS = /^[a-z]\d+$/;

/** The names of the statement's own that the database speaks of: those of tables and columns, never a value. */
const namesOf = (words: readonly string[], statement: string | null): string => {
  const names = words.filter((word) => !OURS.test(word) && statement !== null && quotedIn(statement, word));
  return names.length === 0 ? '' : `: ${[...new Set(names)].join(', ')}`;
};

/**
 * A statement failed. What the driver says of it may quote values, so it is left out: neither this error nor its
 * cause holds one. Its code is `UNAVAILABLE` where the failure passes, as a deadlock or a lost connection does.
 *
 * @example
 * store.count('vessel').catch((error) => { if (error.code === 'STATEMENT') console.error(error.state, error.statement) })
 */
export class StatementError extends GriboError {
  static {
    this.prototype.name = 'StatementError';
  }
  readonly state: string;
  readonly constraint: string | null;
  /** The statement, with marks in the place of its values; null where none was sent. */
  readonly statement: string | null;

  /** What does not fit; null where it is not about a change. */
  readonly violation: Violation | null;
  /** Whether it is about a value that is none of its column's. */
  readonly isAboutValue: boolean;
  readonly passing: Passing | null;
  /** Whether what was to be stored may be stored: the connection was lost while that was decided. */
  readonly mayBeDone: boolean;

  constructor(failure: StatementFailure, statement: string | null, mayBeDone = false) {
    const { state, constraint, means, words, passing } = failure;
    const broken = constraint === null ? '' : `, constraint ${constraint}`;
    super(
      passing === null ? 'STATEMENT' : 'UNAVAILABLE',
      'database',
      `a statement failed (${state}${broken}): ${means}${namesOf(words, statement)}`,
    );
    this.state = state;
    this.constraint = constraint;
    this.statement = statement;
    this.violation = failure.violation;
    this.isAboutValue = failure.isAboutValue;
    this.passing = passing;
    this.mayBeDone = mayBeDone;
  }
}
