import type { Generating } from '../codegen/engine.js';

/** So many rows are worth a program: to make one takes as long as to interpret about as many. */
const ENOUGH = 40;

/** The two ways of doing something with a row. */
export interface Ways<W> {
  /** The interpreter's, which is there at once. */
  interpret(): W;
  /** The program's, which is faster; null where the platform forbids it. */
  generate(): W | null;
}

/** A program that is made when it is worth it: callers choose situations, and most of those come once. */
export class LateProgram<W> {
  readonly #ways: Ways<W>;
  #left: number;
  #program: W | null = null;
  #interpreted: W | null = null;
  #mayGenerate: boolean;

  constructor(ways: Ways<W>, generating: Generating) {
    this.#ways = ways;
    this.#left = generating === 'at once' ? 0 : ENOUGH;
    this.#mayGenerate = generating !== 'never';
  }

  /** Whether a program is there, or will be if enough rows come. */
  get isGenerated(): boolean {
    return this.#mayGenerate;
  }

  /** How the next row is done. */
  next(): W {
    return this.#program ?? this.#find();
  }

  #find(): W {
    if (this.#mayGenerate && this.#left-- <= 0) {
      this.#program = this.#ways.generate();
      this.#mayGenerate = this.#program !== null;
      if (this.#program !== null) return this.#program;
    }
    this.#interpreted ??= this.#ways.interpret();
    return this.#interpreted;
  }
}
