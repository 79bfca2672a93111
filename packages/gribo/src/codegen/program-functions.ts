/** The functions of a program, one for each plan: named when they are first called, emitted until none is left. */
export class ProgramFunctions<P> {
  readonly #letter: string;
  readonly #names = new Map<P, string>();
  readonly #waiting: [string, P][] = [];

  /** @param letter what their names start with: several programs may stand in one module */
  constructor(letter: string) {
    this.#letter = letter;
  }

  readonly name = (plan: P): string => {
    const known = this.#names.get(plan);
    if (known !== undefined) return known;
    const name = `${this.#letter}${this.#names.size}`;
    this.#names.set(plan, name);
    this.#waiting.push([name, plan]);
    return name;
  };

  /** Emits those that were named, and those that these name. */
  emitAll(emit: (name: string, plan: P) => void): void {
    for (let next = this.#waiting.shift(); next !== undefined; next = this.#waiting.shift()) emit(...next);
  }
}
