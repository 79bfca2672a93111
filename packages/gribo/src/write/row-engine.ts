import type { Generating } from '../codegen/engine.js';
import type { ResolvedShape } from '../plan/resolved.js';
import type { Sink } from './bytes/sink.js';
import { generateBytes, generateObject, type MakeRow, type WriteRow } from './generated/generate.js';
import { Interpreter } from './interpreted/interpret.js';
import { LateProgram } from './late-program.js';
import type { Facts } from './read-value.js';

/** Writes the rows of one shape. */
export interface RowWriting {
  /** Whether code is at work that was made for the shape. */
  readonly isGenerated: boolean;
  /** The JSON-ready value of one row. */
  object(row: unknown, facts: Facts): unknown;
  /** Appends one row to a sink as JSON. */
  append(sink: Sink, row: unknown, facts: Facts): void;
}

/** Writes by a plan. Engines differ in speed only, and what the interpreter makes is the measure. */
export class RowEngine implements RowWriting {
  readonly #make: LateProgram<MakeRow>;
  readonly #write: LateProgram<WriteRow>;

  constructor(shape: ResolvedShape, generating: Generating) {
    const interpret = (): MakeRow => new Interpreter().shape(shape);
    this.#make = new LateProgram({ interpret, generate: () => generateObject(shape) }, generating);
    this.#write = new LateProgram(
      { interpret: () => asText(interpret()), generate: () => generateBytes(shape) },
      generating,
    );
  }

  get isGenerated(): boolean {
    return this.#make.isGenerated && this.#write.isGenerated;
  }

  object(row: unknown, facts: Facts): unknown {
    return this.#make.next()(row, facts);
  }

  append(sink: Sink, row: unknown, facts: Facts): void {
    sink.position = this.#write.next()(sink, row, sink.position, facts);
  }
}

const asText =
  (make: MakeRow): WriteRow =>
  (sink, row, _position, facts) => {
    sink.text(JSON.stringify(make(row, facts)));
    return sink.position;
  };
