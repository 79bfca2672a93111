/** The edition that a declaration is settled for, and what is met of editions on the way. */
export interface Here {
  /** Left out: the newest, in which nothing is before anything. */
  readonly edition: string | undefined;
  /** The names of editions that conditions are about. */
  readonly met: Set<string>;
}
