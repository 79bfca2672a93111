/** What became of a member: `missing` is declared and did not come, `unknown` came and is not declared, `wrong` is of another type. */
export type AnswerMark = 'right' | 'missing' | 'unknown' | 'wrong';

/** One member of an answer beside what is declared. */
export interface AnswerLine {
  readonly mark: AnswerMark;
  /** Where it is: names of members and places in lists. */
  readonly path: readonly (string | number)[];
  /** What came; of a member that is not declared only its kind, for it may be a secret. */
  readonly came: string;
  /** What is declared, or what is wrong. */
  readonly declared: string;
}
