import { DeclarationError } from '../../errors/declaration-error.js';
import type { ValueNode } from '../../plan/condition.js';
import type { DeclaredField, DeclaredNode, ShapePlan } from '../../plan/declared.js';
import type { InputField, InputNode, InputPlan } from '../../plan/input-plan.js';
import { freeze } from '../../util/freeze.js';
import { didYouMean } from '../../util/nearest.js';
import type { Column, StoredValue } from '../entity/column.js';
import type { EntityName, ModelTypes } from '../entity/model.js';
import type { ShapeOptions } from '../shape/shape.js';
import type { SetBy } from '../types/carried.js';
import type { InputFields, Waived } from '../types/input-types.js';
import type {
  Cases,
  ColumnsOf,
  Given,
  Nested,
  Optional,
  Self,
  Stored,
  Value,
  Wrap,
} from '../types/member-types.js';
import type { ShapeOf } from '../types/shape-types.js';
import type { StandardInput } from '../types/standard-types.js';
import { required } from './input-ref.js';
import { setBack } from './set-back.js';
import { standardOf } from './standard.js';

/** A member of a shape that an input made from it does not have. */
export interface LeftOut {
  /** Its dotted name. */
  readonly member: string;
  readonly why: string;
}

/** The columns of an entity that are made by the database. */
type GeneratedIn<C> = {
  [N in keyof C]: C[N] extends Column<unknown, unknown, infer F>
    ? 'generated' extends F
      ? N
      : never
    : never;
}[keyof C];

/** A column that a member of a shape may set: whether its conversion has a way back only the run time knows. */
type TurnedMember<Member, C> =
  Member extends Stored<infer N, unknown, unknown>
    ? N extends Exclude<keyof C, GeneratedIn<C>>
      ? Waived<SetBy<N, StoredValue<C[N]>, 'open'>>
      : never
    : Member extends Optional<infer X>
      ? TurnedMember<X, C>
      : Member extends
            | Value<unknown, unknown>
            | Nested<unknown, Wrap>
            | Given<unknown, unknown>
            | Cases<unknown>
            | Self<Wrap>
        ? never
        : TurnedFields<Member, C>;

/** The members of an input that is made from a shape over the columns `C`. */
type TurnedFields<F, C> = {
  readonly [P in keyof F as TurnedMember<F[P], C> extends never ? never : P]: TurnedMember<F[P], C>;
};

/** The members of an input that is made from a shape. */
export type FieldsFrom<F, M, K> = M extends ModelTypes
  ? K extends EntityName<M>
    ? TurnedFields<F, ColumnsOf<M, K>>
    : InputFields
  : InputFields;

/** An input made from a shape, and what of the shape it could not take. */
export interface InputFrom<F = InputFields, K = unknown> extends StandardInput<F, false, K> {
  readonly leftOut: readonly LeftOut[];
}

/** What a value sets when it comes back in; or why nothing. */
const setBy = (node: ValueNode): InputNode | string => {
  const back = setBack(node);
  switch (back.kind) {
    case 'computed':
      return 'it is computed';
    case 'elsewhere':
      return `it comes from behind the link ${back.link.name}`;
    case 'oneWay':
      return `${back.conversion.name} has no way back`;
    case 'set':
      if (back.column.stamped?.value === 'count') return 'each change counts it';
      if (back.column.stamped !== null) return 'each change stamps it';
      return back.column.generated ? 'the database makes it' : back;
    default:
      return back satisfies never;
  }
};

/** Turns a shape's members round, and notes those that cannot be. */
class TurnRound {
  readonly leftOut: LeftOut[] = [];
  readonly dropped = new Set<string>();
  readonly #drop: ReadonlySet<string>;

  constructor(drop: readonly string[]) {
    this.#drop = new Set(drop);
  }

  fields(fields: readonly DeclaredField[], above: string): readonly InputField[] {
    return freeze(fields.flatMap((field) => this.#field(field, above + field.name)));
  }

  #field({ name, node }: DeclaredField, member: string): InputField[] {
    if (this.#drop.has(member)) {
      this.dropped.add(member);
      return [];
    }
    const turned = this.#node(node, member);
    if (typeof turned !== 'string') return [freeze({ name, presence: required, node: turned, when: null })];
    this.leftOut.push(freeze({ member, why: turned }));
    return [];
  }

  #node(node: DeclaredNode, member: string): InputNode | string {
    switch (node.kind) {
      case 'column':
      case 'fact':
      case 'derived':
      case 'converted':
      case 'constant':
      case 'figure':
        return setBy(node);
      case 'group':
        return freeze({ kind: 'inputGroup', fields: this.fields(node.fields, `${member}.`) });
      case 'nested':
      case 'nestedList':
      case 'first':
        return 'it is nested: say with an input of its own what may come in there';
      case 'cases':
        return 'it differs from endpoint to endpoint';
      case 'given':
        return 'it is there under a condition only';
      case 'either':
        return 'it differs from edition to edition';
      case 'unsealed':
        return 'it is sealed: say so yourself if it may come in';
      case 'unlessNull':
      case 'deprecated':
        return this.#node(node.node, member);
      default:
        return node satisfies never;
    }
  }
}

/**
 * Makes an input of a shape: its members turned round, where they can be.
 *
 * @param shape the shape
 * @param options `drop`: dotted names of members that are not to come in; `name`
 * @returns the input, for a `reader`, and `leftOut`: every other member that it does not have, and why
 * @throws {DeclarationError} `DECLARATION` where `drop` names a member that is not there, or nothing is left
 * @example
 * inputFrom(VesselCard, { drop: ['id'] }).leftOut
 */
export const inputFrom = <F, M, K>(
  shape: ShapeOf<F, M, K>,
  options: ShapeOptions & { readonly drop?: readonly string[] } = {},
): InputFrom<FieldsFrom<F, M, K>, K> => {
  const plan: ShapePlan = shape.plan;
  const { drop = [], name = `input from ${plan.name}` } = options;
  const turned = new TurnRound(drop);
  const fields = turned.fields(plan.fields, '');
  const members = plan.fields.map((field) => field.name);
  const findings = drop
    .filter((member) => !turned.dropped.has(member))
    .map((member) => ({
      path: name,
      message: `there is no member "${member}" to drop.${didYouMean(member, members)}`,
    }));
  if (fields.length === 0) findings.push({ path: name, message: 'no member of the shape can come in' });
  DeclarationError.throwIfAny(name, findings);
  const made: InputPlan = freeze({
    kind: 'input',
    name,
    entity: plan.entity,
    about: options.about ?? null,
    fields,
    amends: false,
    fixed: freeze([]),
  });
  return freeze({ plan: made, '~standard': standardOf(made), leftOut: freeze(turned.leftOut) });
};
