import type { ConditionNode } from '../../plan/condition.js';
import type { ColumnPlan, LinkPlan } from '../../plan/entity-plan.js';
import type { InputField, InputListPlan, InputNode, InputPlan, Presence } from '../../plan/input-plan.js';
import { allOf, notOf } from '../../plan/joined.js';
import { leavesOf } from '../../plan/leaves-of.js';
import { valuesLink } from '../../plan/values-entity.js';
import { describeValue } from '../../util/describe-value.js';
import { freeze } from '../../util/freeze.js';
import { isPlainLiteral } from '../../util/is-plain-literal.js';
import { type AnyColumn, Column } from '../entity/column.js';
import { planColumn } from '../entity/plan-column.js';
import { type GivenCall, givenBehind } from '../references/given-behind.js';
import { handles } from '../references/handles.js';
import { Broken, type Home, MemberRef, referenceOf } from '../references/member.js';
import { type ReadMember, readLiteral } from '../references/read-literal.js';
import { setBack } from './set-back.js';

/** A column that the database makes, and where in a member it stands. */
export interface Unassigned {
  readonly at: readonly string[];
  readonly column: string;
  /** Who sets it instead. */
  readonly by: string;
}

/** What stands behind a member of an input while it is declared. */
export interface InputRef {
  readonly node: InputNode;
  readonly presence: Presence;
  /** For which audiences it is there, and in which editions; null: always. */
  readonly when: ConditionNode | null;
  /** What is there in editions in which that does not hold; null: nothing. */
  readonly otherwise: InputRef | null;
  readonly home: Home | null;
  /** Columns that the database makes, and that nothing says the body may set: where they are, and their names. */
  readonly unassigned: readonly Unassigned[];
}

/** Members of an input as they are handed out. */
const inputs = handles<InputRef | Broken>();

export const handOutInput = <Seen>(ref: InputRef | Broken): Seen => inputs.handOut(ref);

export const required: Presence = freeze({ kind: 'required' });

const computed = 'an input sets columns: this value is computed, so there is nothing to set';

/** Whether something else sets a column, as inputs are told. */
const othersSet = ({ name, generated, stamped }: ColumnPlan): readonly Unassigned[] => {
  if (stamped?.value === 'count') return [{ at: [], column: name, by: 'counted by each change' }];
  if (stamped !== null) return [{ at: [], column: name, by: 'stamped by each change' }];
  return generated ? [{ at: [], column: name, by: 'made by the database' }] : [];
};

const settable = ({ node, home }: MemberRef): InputRef | Broken => {
  if (node.kind !== 'column' && node.kind !== 'converted') return new Broken(computed);
  const back = setBack(node);
  switch (back.kind) {
    case 'computed':
      return new Broken(computed);
    case 'elsewhere': {
      const help = "nest an input over the link, or set this row's own key column";
      return new Broken(`${back.column.name} is a column of another row: ${help}`);
    }
    case 'oneWay':
      return new Broken(`${back.conversion.name} has no way back, so an input cannot take it`);
    case 'set': {
      const { column } = back;
      return {
        node: back,
        presence: required,
        when: null,
        otherwise: null,
        home,
        unassigned: othersSet(column),
      };
    }
    default:
      return back satisfies never;
  }
};

/** The members of a literal, as the fields that they are. */
export const fieldsOf = (members: readonly ReadMember<InputRef>[]): readonly InputField[] =>
  freeze(members.flatMap(({ name, value }) => fieldsOfMember(name, value)));

/** A member that differs by edition is two of one name: one of them is left in each. */
const fieldsOfMember = (name: string, ref: InputRef): readonly InputField[] => {
  const { presence, node, when, otherwise } = ref;
  return [
    freeze({ name, presence, node, when }),
    ...(otherwise === null ? [] : fieldsOfMember(name, otherwise)),
  ];
};

/** What is not assigned in the members of a literal. */
export const unassignedIn = (members: readonly ReadMember<InputRef>[]): readonly Unassigned[] =>
  members.flatMap(({ name, value }) =>
    value.unassigned.map(({ at, ...rest }) => ({ at: [name, ...at], ...rest })),
  );

const groupOf = (literal: Readonly<Record<string, unknown>>): InputRef | Broken => {
  const { members, broken } = readLiteral(literal, inputRefOf);
  if (broken !== null) return broken;
  return {
    node: freeze({ kind: 'inputGroup', fields: fieldsOf(members) }),
    presence: required,
    when: null,
    otherwise: null,
    home: members.find(({ value }) => value.home !== null)?.value.home ?? null,
    unassigned: unassignedIn(members),
  };
};

const under = (condition: ConditionNode, ref: InputRef): InputRef => ({
  ...ref,
  when: ref.when === null ? condition : allOf(condition, ref.when),
  otherwise: ref.otherwise && under(condition, ref.otherwise),
});

/** A member that is there for some audiences, or in some editions: for the others it does not exist. */
const givenRef = ({ condition, member, otherwise }: GivenCall): InputRef | Broken => {
  if (leavesOf(condition).some(({ kind }) => kind !== 'audience' && kind !== 'edition'))
    return new Broken('what comes in is there for audiences or not: given(audience(…), v.column)');
  const inner = inputRefOf(member);
  if (inner instanceof Broken) return inner;
  if (otherwise === undefined) return under(condition, inner);
  const other = inputRefOf(otherwise);
  if (other instanceof Broken) return other;
  const before = under(notOf(condition), other);
  return withOtherwise(under(condition, inner), before);
};

/** What stands behind the last of what a member is by edition. */
const withOtherwise = (ref: InputRef, otherwise: InputRef): InputRef => ({
  ...ref,
  otherwise: ref.otherwise === null ? otherwise : withOtherwise(ref.otherwise, otherwise),
  unassigned: [...ref.unassigned, ...otherwise.unassigned],
});

/** A column of no row, for values: it has no name before its literal gives it one. */
const ownColumn = ({ settings }: AnyColumn): InputRef | Broken => {
  if (settings.wrong !== null) return new Broken(settings.wrong);
  const node = freeze({
    kind: 'set',
    column: planColumn('', '', settings),
    conversions: freeze([]),
  } as const);
  return { node, presence: required, when: null, otherwise: null, home: null, unassigned: [] };
};

/** Whether something is what `values` declared, or a list of it. */
const isValues = (value: unknown): value is { readonly plan: InputPlan | InputListPlan } => {
  if (typeof value !== 'object' || value === null || !('plan' in value)) return false;
  const { plan } = value as { readonly plan?: { readonly shape?: object; readonly entity?: object } };
  const { entity } = (plan?.shape ?? plan ?? {}) as { readonly entity?: { readonly kind?: unknown } };
  return entity?.kind === 'values';
};

/** Values inside others, under no name yet. */
const valuesRef = (plan: InputPlan | InputListPlan): InputRef => {
  const input = plan.kind === 'list' ? plan.shape : plan;
  const link = valuesLink('', plan.kind === 'list' ? 'toMany' : 'toOne', input.entity);
  const node = freeze({ kind: 'nestedInput', link, input, min: null, max: null } as const);
  return { node, presence: required, when: null, otherwise: null, home: null, unassigned: [] };
};

/** What a member of an input's literal is, or why it is none. */
export const inputRefOf = (value: unknown): InputRef | Broken => {
  const given = givenBehind(value);
  if (given !== null) return givenRef(given);
  const known = inputs.behind(value);
  if (known !== null) return known;
  const reference = referenceOf(value);
  if (reference instanceof Broken) return reference;
  if (reference instanceof MemberRef) return settable(reference);
  if (reference !== null)
    return new Broken('this is a row or rows: nest an input over the link, NewItem(v.items)');
  if (value instanceof Column) return ownColumn(value);
  if (isValues(value)) return valuesRef(value.plan);
  if (isPlainLiteral(value)) return groupOf(value);
  return new Broken(`expected a column, a group or a nested input, got ${describeValue(value)}`);
};

/** How many rows a nested input takes. */
export interface RowLimits {
  /** The least rows. */
  readonly min?: number;
  /** The most rows. */
  readonly max?: number;
}

const limitsFinding = ({ min, max }: RowLimits, { kind, name }: LinkPlan): string | null => {
  if (min === undefined && max === undefined) return null;
  if (kind === 'toOne') return `${name} leads to one row: leave min and max out`;
  const limits = [min, max].filter((limit) => limit !== undefined);
  if (limits.some((limit) => !Number.isInteger(limit) || limit < 0))
    return 'min and max are whole numbers of rows';
  return (min ?? 0) > (max ?? Number.POSITIVE_INFINITY) ? `its min ${min} is above its max ${max}` : null;
};

/** A nested input over a link, or why it does not fit. */
export const nestedRef = (input: InputPlan, over: unknown, limits: RowLimits = {}): InputRef | Broken => {
  const reference = referenceOf(over);
  if (reference instanceof Broken) return reference;
  const isLink = reference !== null && !(reference instanceof MemberRef);
  const link = !isLink ? undefined : reference.kind === 'rows' ? reference.link : reference.path[0];
  if (!isLink || link === undefined || reference.path.length > (reference.kind === 'rows' ? 0 : 1)) {
    return new Broken('an input is nested over a link of the row: NewItem(v.items)');
  }
  if (link.target !== input.entity) {
    return new Broken(
      `${input.name} is an input over ${input.entity.name}, but the link leads to ${link.target.name}`,
    );
  }
  const wrong = limitsFinding(limits, link);
  if (wrong !== null) return new Broken(wrong);
  const { min = null, max = null } = limits;
  const node = freeze({ kind: 'nestedInput', link, input, min, max } as const);
  return { node, presence: required, when: null, otherwise: null, home: reference.home, unassigned: [] };
};
