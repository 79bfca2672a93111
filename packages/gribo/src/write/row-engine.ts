import type { EngineName } from '../codegen/engine.js';
import type { ResolvedShape } from '../plan/resolved.js';
import type { Sink } from './bytes/sink.js';
import { generateBytes, generateObject, type MakeRow, type WriteRow } from './generated/generate.js';
import { Interpreter } from './interpreted/interpret.js';
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

/**
 * Writes by a plan. Engines differ in speed only, and what the interpreter makes is the measure. Programs
 * are generated at their first use; where the platform does not let them be made then, the interpreter takes over.
 */
export class RowEngine implements RowWriting {
  readonly #shape: ResolvedShape;
  #isGenerated: boolean;
  #makeRow: MakeRow | null = null;
  #writeRow: WriteRow | null = null;

  constructor(shape: ResolvedShape, engine: EngineName) {
    this.#shape = shape;
    this.#isGenerated = engine === 'generated';
  }

  get isGenerated(): boolean {
    return this.#isGenerated;
  }

  object(row: unknown, facts: Facts): unknown {
    this.#makeRow ??= this.#program(generateObject) ?? new Interpreter().shape(this.#shape);
    return this.#makeRow(row, facts);
  }

  append(sink: Sink, row: unknown, facts: Facts): void {
    this.#writeRow ??= this.#program(generateBytes) ?? this.#interpreted;
    sink.position = this.#writeRow(sink, row, sink.position, facts);
  }

  #program<T>(generate: (shape: ResolvedShape) => T | null): T | null {
    if (!this.#isGenerated) return null;
    const program = generate(this.#shape);
    this.#isGenerated = program !== null;
    return program;
  }

  readonly #interpreted: WriteRow = (sink, row, _position, facts) => {
    sink.text(JSON.stringify(this.object(row, facts)));
    return sink.position;
  };
}
