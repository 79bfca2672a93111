import type { EngineName } from '../codegen/engine.js';
import type { ResolvedBody } from '../plan/resolved.js';
import { BodyWriter } from './body-writer.js';
import { explain } from './explain.js';
import { GeneratedEngine, InterpretedEngine } from './row-engine.js';

/** The writer of a resolved body by one of the engines. */
export const writeBody = ({ kind, shape }: ResolvedBody, engine: EngineName): BodyWriter => {
  const rows = engine === 'generated' ? new GeneratedEngine(shape) : new InterpretedEngine(shape);
  return new BodyWriter(kind === 'list', shape.name, rows, (error, row, where) =>
    explain(error, shape, row, where),
  );
};
