import { DeclarationError } from '../../errors/declaration-error.js';
import type { DeclaredNode, ShapePlan } from '../../plan/declared.js';
import type { EntityPlan } from '../../plan/entity-plan.js';
import { freeze } from '../../util/freeze.js';
import type { Bound, EntityName, ModelTypes } from '../entity/model.js';
import { Broken, handOut, handOutBroken, MemberRef, referenceOf } from '../references/member.js';
import { listRef, nestedRef } from '../references/nested-ref.js';
import type { Fields, ListRef, Row, RowBrand, Self } from '../types/member-types.js';
import type { Shape } from '../types/shape-types.js';
import { callableShape, fieldsOf, type ShapeOptions } from './shape.js';

/** The shape inside itself: called with a link that leads to the same entity. */
export interface SelfCall<M, K> {
  (row: RowBrand<M, K, false>): Self<'one'>;
  (row: RowBrand<M, K, boolean>): Self<'oneOrNull'>;
  (rows: ListRef<M, K, false>): Self<'many'>;
  (rows: ListRef<M, K, boolean>): Self<'manyOrNull'>;
}

export interface RecursiveOptions extends ShapeOptions {
  /** How many levels are written, the outermost counted: 1 or more. */
  readonly depth: number;
}

/** A shape's function as the runtime calls it. */
type DeclareRecursive = (row: object, self: (over: unknown) => unknown) => unknown;

interface Level {
  readonly plan: ShapePlan;
  readonly declare: (row: object) => unknown;
}

/** The member that no situation includes: the next level below the deepest one. */
const nowhere: DeclaredNode = freeze({ kind: 'cases', cases: freeze([]), otherwise: null });

/** What `self(link)` gives on one level; `inner` is the shape of the next one, null on the deepest. */
const selfCall = (entity: EntityPlan, name: string, inner: ShapePlan | null) => (over: unknown) => {
  const reference = referenceOf(over);
  if (reference instanceof Broken) return over;
  if (reference === null || reference instanceof MemberRef) {
    return handOutBroken('the shape itself is called with a link: self(q.parts)');
  }
  if (reference.bound.entity !== entity) {
    return handOutBroken(`${name} is a shape over ${entity.name}, not over ${reference.bound.entity.name}`);
  }
  if (reference.kind === 'row' && reference.path.length === reference.home.base.length) {
    return handOutBroken('the shape itself cannot be nested over its own row; call self with a link');
  }
  if (inner === null) return handOut(new MemberRef(nowhere, reference.home));
  return handOut(
    reference.kind === 'row' ? nestedRef(reference, inner) : listRef('nestedList', reference, inner),
  );
};

/**
 * Declares a shape that contains itself, such as a quay with its parts. It is written `depth`
 * levels deep; the deepest level has no member for the next one.
 *
 * @param over the entity
 * @param options `depth`: the number of levels; `name`: as for `shape`
 * @param declare given the row and the shape itself, returns the members
 * @throws {DeclarationError} `DECLARATION`, as for `shape`, and where `depth` is not 1 or more
 * @example
 * recursive(db.quay, { depth: 4 }, (q, self) => ({ id: q.id, name: q.name, parts: self(q.parts) }))
 */
export const recursive = <M extends ModelTypes, K extends EntityName<M>, const F extends Fields>(
  over: Bound<M, K>,
  options: RecursiveOptions,
  declare: (row: Row<M, K>, self: SelfCall<M, K>) => F,
): Shape<M, K, F> => {
  const { name = declare.name || over.entity.name, about = null } = options;
  if (!(Number.isInteger(options.depth) && options.depth >= 1 && options.depth <= 64)) {
    const message = `depth must be a whole number from 1 to 64, got ${options.depth}`;
    DeclarationError.throwIfAny(`shape "${name}"`, [{ path: name, message }]);
  }
  const untyped = declare as unknown as DeclareRecursive;
  const levelAbove = (inner: ShapePlan | null): Level => {
    const declareLevel = (row: object): unknown => untyped(row, selfCall(over.entity, name, inner));
    const fields = fieldsOf(over, name, declareLevel, untyped);
    return {
      declare: declareLevel,
      plan: freeze({ kind: 'shape', name, entity: over.entity, about, fields }),
    };
  };
  let level = levelAbove(null);
  for (let depth = 1; depth < options.depth; depth++) level = levelAbove(level.plan);
  return callableShape(level.plan, over, level.declare);
};
