import type { ResolvedShape } from '../../plan/resolved.js';
import { instantiate } from '../../util/instantiate.js';
import { SourceWriter } from '../../util/source-writer.js';
import type { Sink } from '../bytes/sink.js';
import { ShapeBytes } from './bytes-program.js';
import { ShapeObject } from './object-program.js';
import { runtime } from './runtime.js';

/** Writes a row into a sink from a position on, and returns the position after it. */
export type WriteRow = (sink: Sink, row: unknown, position: number) => number;

/** Makes the JSON-ready object of a row. */
export type MakeRow = (row: unknown) => unknown;

/** One function of a program for each shape in a plan. */
interface EmitShape {
  emit(name: string, shape: ResolvedShape, out: SourceWriter): void;
}

/** The text of a program, the constants it needs, and the name of its first function. */
interface Program {
  readonly source: string;
  readonly constants: readonly unknown[];
}

type Kind = 'bytes' | 'object';

const emitProgram = (kind: Kind, root: ResolvedShape): Program => {
  const out = new SourceWriter();
  const names = new Map<ResolvedShape, string>();
  const waiting: [string, ResolvedShape][] = [];
  const functionOf = (shape: ResolvedShape): string => {
    const known = names.get(shape);
    if (known !== undefined) return known;
    const name = `w${names.size}`;
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
  out.line(`return ${first};`);
  return { source: out.toString(), constants: out.constants.values };
};

const makeProgram = (kind: Kind, shape: ResolvedShape): unknown => {
  const { source, constants } = emitProgram(kind, shape);
  return instantiate(source, runtime, constants);
};

/** The program that writes rows of a shape as JSON bytes. */
export const generateBytes = (shape: ResolvedShape): WriteRow => makeProgram('bytes', shape) as WriteRow;

/** The program that makes the JSON-ready objects of rows of a shape. */
export const generateObject = (shape: ResolvedShape): MakeRow => makeProgram('object', shape) as MakeRow;
