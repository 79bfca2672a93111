/** What a program is handed besides its rows, each under a name of its own. */
export class Constants {
  readonly values: unknown[] = [];
  readonly #names = new Map<unknown, string>();

  /** The name under which the program knows this function or object. */
  name(value: unknown): string {
    const known = this.#names.get(value);
    if (known !== undefined) return known;
    const name = `k${this.values.length}`;
    this.values.push(value);
    this.#names.set(value, name);
    return name;
  }
}

/** Text of a program, line by line. Names and values from outside get in by `quoted` only. */
export class SourceWriter {
  readonly constants: Constants;
  readonly #lines: string[] = [];

  constructor(constants: Constants = new Constants()) {
    this.constants = constants;
  }

  /** A text of its own, over the same constants. */
  part(): SourceWriter {
    return new SourceWriter(this.constants);
  }

  line(text: string): void {
    this.#lines.push(text);
  }

  append(part: SourceWriter): void {
    this.#lines.push(...part.#lines);
  }

  /** A name or value from outside, as a string literal. */
  quoted(value: string): string {
    return JSON.stringify(value);
  }

  toString(): string {
    return this.#lines.join('\n');
  }
}
