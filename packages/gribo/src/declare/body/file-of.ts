import { DeclarationError, type Finding } from '../../errors/declaration-error.js';
import type { DeclaredField, ShapePlan } from '../../plan/declared.js';
import { freeze } from '../../util/freeze.js';
import type { Bound, EntityName, ModelTypes } from '../entity/model.js';
import { type ShapeOptions, shape } from '../shape/shape.js';
import type { FileBody, FileMembers } from '../types/file-types.js';
import type { Row } from '../types/member-types.js';
import type { ShapeOf } from '../types/shape-types.js';

const KNOWN = ['bytes', 'type', 'name'];

const kindOf = (node: DeclaredField['node']): string | null => {
  if (node.kind === 'given') return kindOf(node.node);
  if (node.kind === 'either') return kindOf(node.node) === kindOf(node.otherwise) ? kindOf(node.node) : null;
  return node.kind === 'column' ? node.column.type.kind : null;
};

const findingsOf = ({ name, fields }: ShapePlan): readonly Finding[] => {
  const bytes = fields.find((field) => field.name === 'bytes');
  const strays = fields.filter((field) => !KNOWN.includes(field.name));
  const wanted = 'a file has bytes, a column of bytes()';
  return [
    ...(bytes === undefined ? [{ path: name, message: wanted }] : []),
    ...(bytes !== undefined && kindOf(bytes.node) !== 'bytes'
      ? [{ path: `${name}.bytes`, message: wanted }]
      : []),
    ...strays.map((field) => ({ path: `${name}.${field.name}`, message: 'a file has bytes, type and name' })),
  ];
};

/**
 * Declares the bytes of a column as the response of an endpoint: as they are, with their media type, a name to keep them under, an
 * entity tag, and parts of them where they are asked for (`Range`).
 *
 * @param over the entity
 * @param declare given the row, its `bytes`, and where there are any, its `type` and `name`
 * @param options `name`: what messages call it; `about`: a sentence for descriptions
 * @throws {DeclarationError} `DECLARATION` where it has no bytes, or other members
 * @example
 * fileOf(db.positionReport, (p) => ({ bytes: p.raw, type: constant('application/octet-stream') }))
 */
export const fileOf = <M extends ModelTypes, K extends EntityName<M>>(
  over: Bound<M, K>,
  declare: (row: Row<M, K>) => FileMembers,
  options: ShapeOptions = {},
): FileBody<M, K> => {
  const made = shape(over, declare as never, options) as unknown as ShapeOf<FileMembers, M, K>;
  DeclarationError.throwIfAny(`file "${made.plan.name}"`, findingsOf(made.plan));
  // The phantoms that carry the fields exist for the compiler only.
  return freeze({ plan: made.plan, over: made.over, sends: 'file' }) as unknown as FileBody<M, K>;
};
