import { instantiate } from '../../codegen/instantiate.js';
import { SourceWriter } from '../../codegen/source-writer.js';
import type { ResolvedShape } from '../../plan/resolved.js';
import type { Sink } from '../bytes/sink.js';
import type { Facts } from '../read-value.js';
import { ShapeBytes } from './bytes-program.js';
import { ShapeObject } from './object-program.js';
import * as runtime from './runtime.js';

/** Writes a row into a sink from a position on, and returns the position after it. */
export type WriteRow = (sink: Sink, row: unknown, position: number, facts: Facts) => number;

/** Makes the JSON-ready object of a row. */
export type MakeRow = (row: unknown, facts: Facts) => unknown;

/** One function of a program for each shape in a plan. */
interface EmitShape {
  emit(name: string, shape: ResolvedShape, out: SourceWriter): void;
}

export type ProgramKind = 'bytes' | 'object';

/** The letter that the functions of a program start with: both programs of a shape may stand in one module. */
const LETTERS: Readonly<Record<ProgramKind, string>> = { bytes: 'w', object: 'x' };

/**
 * Emits the functions of a program, one for each shape.
 *
 * @returns the name of the first: the one for the outermost shape
 */
export const emitProgram = (kind: ProgramKind, root: ResolvedShape, out: SourceWriter): string => {
  const names = new Map<ResolvedShape, string>();
  const waiting: [string, ResolvedShape][] = [];
  const functionOf = (shape: ResolvedShape): string => {
    const known = names.get(shape);
    if (known !== undefined) return known;
    const name = `${LETTERS[kind]}${names.size}`;
    names.set(shape, name);
    waiting.push([name, shape]);
    return name;
  };
  const first = functionOf(root);
  for (let next = waiting.shift(); next !== undefined; next = waiting.shift()) {
    const emitter: EmitShape =
      kind === 'bytes' ? new ShapeBytes(out, functionOf) : new ShapeObject(out, functionOf);
    emitter.emit(...next, out);
  }
  return first;
};

const makeProgram = (kind: ProgramKind, shape: ResolvedShape): unknown => {
  const out = new SourceWriter();
  out.line(`return ${emitProgram(kind, shape, out)};`);
  return instantiate(out.toString(), runtime, out.constants.values);
};

/** The program that writes rows of a shape as JSON bytes; null where the platform forbids it. */
export const generateBytes = (shape: ResolvedShape): WriteRow | null =>
  makeProgram('bytes', shape) as WriteRow | null;

/** The program that makes the JSON-ready objects of rows of a shape; null where the platform forbids it. */
export const generateObject = (shape: ResolvedShape): MakeRow | null =>
  makeProgram('object', shape) as MakeRow | null;
