import { DeclarationError } from '../../errors/declaration-error.js';
import type { DeclaredField, ShapePlan } from '../../plan/declared.js';
import { freeze } from '../../util/freeze.js';
import type { Bound, BoundEntity, EntityName, ModelTypes } from '../entity/model.js';
import { chosenBy } from '../references/chosen.js';
import {
  Broken,
  handOut,
  handOutBroken,
  type ListPlace,
  MemberRef,
  type RowPlace,
  referenceOf,
  stand,
} from '../references/member.js';
import { listRef, nestedRef } from '../references/nested-ref.js';
import { rootRow, rowRef } from '../references/row-ref.js';
import type { CheckedFields, Literal } from '../types/checked-types.js';
import type { Row } from '../types/member-types.js';
import type { Shape } from '../types/shape-types.js';
import { readFields } from './read-fields.js';

export interface ShapeOptions {
  /** The name that messages and descriptions use. Default: the function's own name, or the entity's. */
  readonly name?: string;
  /** What it is, in a sentence, for descriptions. */
  readonly about?: string;
}

/** A shape's function as the runtime calls it. */
type Declare = (row: object) => unknown;

/** The sentence that compiler and runtime share about what a shape is called with. */
const wrongPlace = ({ entity }: ShapePlan): unknown =>
  handOutBroken(`this is a shape over ${entity.name}: call it with a row of it, or with a link to it`);

/** A shape called with a row: its members where it is spread, a nested object where it is a member. */
const overRow = (plan: ShapePlan, declare: Declare, place: RowPlace): object => {
  let members: object | null = null;
  // Reading the members calls the function again over this row: only a spread needs that.
  const read = (): object => {
    members ??= Object(declare(rowRef({ ...place, home: { ...place.home, base: place.path } })));
    return members as object;
  };
  const proxy = new Proxy(
    {},
    {
      get: (_target, name) => Reflect.get(read(), name),
      has: (_target, name) => Reflect.has(read(), name),
      ownKeys: () => Reflect.ownKeys(read()),
      getOwnPropertyDescriptor: (_target, name) => {
        const found = Reflect.getOwnPropertyDescriptor(read(), name);
        return found === undefined ? undefined : { ...found, configurable: true };
      },
    },
  );
  return stand(proxy, nestedRef(place, plan));
};

const overRows = (plan: ShapePlan, place: ListPlace): object => handOut(listRef('nestedList', place, plan));

/** Makes the callable shape of a plan. */
export const callableShape = <S>(plan: ShapePlan, over: BoundEntity, declare: Declare): S => {
  const call = (place: unknown): unknown => {
    const reference = referenceOf(place);
    if (reference instanceof Broken) return place;
    if (reference === null || reference instanceof MemberRef) {
      return wrongPlace(plan);
    }
    if (reference.bound.entity !== plan.entity) return wrongPlace(plan);
    return reference.kind === 'row' ? overRow(plan, declare, reference) : overRows(plan, reference);
  };
  // The callable's overloads exist for the compiler only.
  return freeze(Object.assign(call, { plan, over })) as S;
};

/**
 * Reads the fields of a shape from its function, or throws everything that is wrong with them. `source` is the user's own
 * function, where `declare` is made from it.
 */
export const fieldsOf = (
  bound: BoundEntity,
  name: string,
  declare: Declare,
  source: (...values: never[]) => unknown = declare,
): readonly DeclaredField[] => {
  const place = rootRow(bound);
  const fields = readFields(`shape "${name}"`, name, declare(rowRef(place)), place.home);
  DeclarationError.throwIfAny(`shape "${name}"`, chosenBy(name, source));
  return fields;
};

/**
 * Declares what goes out for a row of an entity: a function from the row to a literal that
 * looks like the JSON it makes.
 *
 * @param over the entity, as its model gives it
 * @param declare given the row, returns the members; called when declared, never for a row of data
 * @param options `name`: what messages and descriptions call the shape; `about`: a sentence for descriptions
 * @returns the shape; call it with a row or a link inside another shape to nest or spread it
 * @throws {DeclarationError} `DECLARATION` listing everything in the literal that is no member,
 * sealed columns included
 * @example
 * const VesselCard = shape(db.vessel, (v) => ({ id: v.id, name: v.name, operatorName: v.operator.name }));
 */
export const shape = <M extends ModelTypes, K extends EntityName<M>, const F extends Literal>(
  over: Bound<M, K>,
  declare: (row: Row<M, K>) => CheckedFields<F>,
  options: ShapeOptions = {},
): Shape<M, K, F> => {
  const name = options.name ?? (declare.name || over.entity.name);
  const untyped = declare as unknown as Declare;
  const fields = fieldsOf(over, name, untyped);
  const { about = null } = options;
  const plan: ShapePlan = freeze({ kind: 'shape', name, entity: over.entity, about, fields });
  return callableShape(plan, over, untyped);
};
