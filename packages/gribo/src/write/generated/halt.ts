/** Something did not fit. The program stops at once; the interpreter finds the words for it. */
export class Halt extends Error {
  /** The member, without the places in lists. */
  readonly member: string;
  constructor(member: string) {
    super(member);
    this.member = member;
  }
}
