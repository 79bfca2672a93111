import { instantiate } from '../../codegen/instantiate.js';
import { ProgramFunctions } from '../../codegen/program-functions.js';
import { SourceWriter } from '../../codegen/source-writer.js';
import type { ResolvedShape } from '../../plan/resolved.js';
import { ShapeBytes } from '../generated/bytes-program.js';
import type { WriteRow } from '../generated/generate.js';
import * as runtime from '../generated/runtime.js';
import { ShapeCells } from './cells-program.js';
import * as cells from './write-cell.js';

/** The program that writes rows of a shape as cells of CSV; null where the platform forbids it. */
export const generateCells = (shape: ResolvedShape, isGuarded: boolean): WriteRow | null => {
  const out = new SourceWriter();
  const flat = new ProgramFunctions<ResolvedShape>('c');
  const json = new ProgramFunctions<ResolvedShape>('w');
  out.line(`return ${flat.name(shape)};`);
  const functions = { cells: flat.name, json: json.name };
  flat.emitAll((name, one) => new ShapeCells(out, functions, isGuarded).emit(name, one, out));
  json.emitAll((name, one) => new ShapeBytes(out, json.name).emit(name, one, out));
  return instantiate(out.toString(), { ...runtime, ...cells }, out.constants.values) as WriteRow | null;
};
