/** A number of a JSON text that JavaScript would not hold as it was written: its digits. */
export class ExactNumber {
  readonly text: string;
  constructor(text: string) {
    this.text = text;
  }
}
