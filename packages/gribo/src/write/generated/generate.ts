import { instantiate } from '../../codegen/instantiate.js';
import { ProgramFunctions } from '../../codegen/program-functions.js';
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

export type ProgramKind = 'bytes' | 'object';

/**
 * Emits the functions of a program, one for each shape.
 *
 * @returns the name of the first: the one for the outermost shape
 */
export const emitProgram = (kind: ProgramKind, root: ResolvedShape, out: SourceWriter): string => {
  const functions = new ProgramFunctions<ResolvedShape>(kind === 'bytes' ? 'w' : 'x');
  const first = functions.name(root);
  functions.emitAll((name, shape) => {
    const emitter =
      kind === 'bytes' ? new ShapeBytes(out, functions.name) : new ShapeObject(out, functions.name);
    emitter.emit(name, shape, out);
  });
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
