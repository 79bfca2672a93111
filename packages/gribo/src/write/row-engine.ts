import type { EngineName } from '../codegen/engine.js';
import type { ResolvedShape } from '../plan/resolved.js';
import type { Sink } from './bytes/sink.js';
import { generateBytes, generateObject, type MakeRow, type WriteRow } from './generated/generate.js';
import { Interpreter, type MakeObject } from './interpreted/interpret.js';

/** Writes the rows of one shape. Engines differ in speed only. */
export interface RowEngine {
  readonly name: EngineName;
  /** The JSON-ready value of one row. */
  object(row: unknown): unknown;
  /** Appends one row to a sink as JSON. */
  append(sink: Sink, row: unknown): void;
}

/** The engine that makes no code. Its output is the measure for the others. */
export class InterpretedEngine implements RowEngine {
  readonly name = 'interpreted';
  readonly #make: MakeObject;

  constructor(shape: ResolvedShape) {
    this.#make = new Interpreter().shape(shape);
  }

  object(row: unknown): unknown {
    return this.#make(row);
  }

  append(sink: Sink, row: unknown): void {
    sink.text(JSON.stringify(this.#make(row)));
  }
}

/** The engine of generated programs. Each is made at its first use. */
export class GeneratedEngine implements RowEngine {
  readonly name = 'generated';
  readonly #shape: ResolvedShape;
  #writeRow: WriteRow | null = null;
  #makeRow: MakeRow | null = null;

  constructor(shape: ResolvedShape) {
    this.#shape = shape;
  }

  object(row: unknown): unknown {
    this.#makeRow ??= generateObject(this.#shape);
    return this.#makeRow(row);
  }

  append(sink: Sink, row: unknown): void {
    this.#writeRow ??= generateBytes(this.#shape);
    sink.position = this.#writeRow(sink, row, sink.position);
  }
}
