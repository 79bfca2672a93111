import type { Generating } from '../codegen/engine.js';
import type { ResolvedBody } from '../plan/resolved.js';
import { BodyWriter } from './body-writer.js';
import { explain } from './explain.js';
import { RowEngine } from './row-engine.js';

/** The writer of a resolved body by one of the engines. */
export const writeBody = ({ kind, shape }: ResolvedBody, generating: Generating): BodyWriter =>
  new BodyWriter(
    kind === 'list',
    shape.name,
    new RowEngine(shape, generating),
    (error, row, where, facts) => explain(error, shape, row, where, facts),
    shape,
  );
