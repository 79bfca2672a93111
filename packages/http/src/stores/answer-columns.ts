import { bool, bytes, type Column, integer, text, timestamp } from 'gribo';

/** The columns that an answer is kept in. */
export interface AnswerColumns {
  /** Who asked what under which key, as a hash of 43 characters. */
  readonly key: Column<string, string, 'key'>;
  /** A hash of the body, of as many. */
  readonly body: Column<string, string>;
  readonly status: Column<number, number>;
  /** The headers of the answer, as JSON. */
  readonly headers: Column<string, string>;
  readonly content: Column<Uint8Array, string, 'null'>;
  /** What the body was written from, for a repeat that asks for another format; null where there is none. */
  readonly made: Column<Uint8Array, string, 'null'>;
  /** Whether it is known who asked: of the others, only so many are kept. */
  readonly known: Column<boolean, boolean>;
  readonly at: Column<Date, string>;
}

/**
 * The columns of an entity that keeps answers to be given again: put it into the model, and name it in `serve`'s `repeats`.
 *
 * @example
 * const columns = answerColumns();
 */
export const answerColumns = (): AnswerColumns => ({
  key: text({ max: 43 }).key(),
  body: text({ max: 43 }),
  status: integer(),
  headers: text(),
  content: bytes().nullable(),
  made: bytes().nullable(),
  known: bool(),
  at: timestamp(),
});

/** A row of it. */
export interface KeptAnswer {
  readonly key: string;
  readonly body: string;
  readonly status: number;
  readonly headers: string;
  readonly content: Uint8Array | null;
  readonly made: Uint8Array | null;
  readonly known: boolean;
  readonly at: Date;
}
