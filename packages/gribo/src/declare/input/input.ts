import { epochsOf } from '../../editions/epochs.js';
import { inputFieldsIn } from '../../editions/input-in.js';
import { DeclarationError, type Finding } from '../../errors/declaration-error.js';
import type { ConditionNode } from '../../plan/condition.js';
import type { EntityPlan } from '../../plan/entity-plan.js';
import type { FixedMember, InputField, InputPlan } from '../../plan/input-plan.js';
import { anyOf } from '../../plan/joined.js';
import { leavesOf } from '../../plan/leaves-of.js';
import { freeze } from '../../util/freeze.js';
import { isPlainLiteral } from '../../util/is-plain-literal.js';
import type { Bound, EntityName, ModelTypes } from '../entity/model.js';
import { chosenBy } from '../references/chosen.js';
import { Broken, type Home } from '../references/member.js';
import { type ReadMember, readLiteral } from '../references/read-literal.js';
import { rootRow, rowRef } from '../references/row-ref.js';
import type { ShapeOptions } from '../shape/shape.js';
import type { CheckedTargets, Literal } from '../types/checked-types.js';
import type { InputFields, InputOf, InputRow } from '../types/input-types.js';
import type { Input, StandardInput } from '../types/standard-types.js';
import { presetFindings } from './check-presets.js';
import {
  fieldsOf,
  handOutInput,
  type InputRef,
  inputRefOf,
  nestedRef,
  type RowLimits,
  unassignedIn,
} from './input-ref.js';
import { standardOf } from './standard.js';

/** Every column that the fields set, with the member that sets it. */
const targets = (fields: readonly InputField[], at: string): (readonly [column: string, member: string])[] =>
  fields.flatMap(({ name, node }): (readonly [string, string])[] => {
    const member = `${at}.${name}`;
    if (node.kind === 'set') return [[node.column.name, member]];
    return node.kind === 'inputGroup' ? targets(node.fields, member) : [[node.link.name, member]];
  });

const otherInput = 'it was made from the row of another input; use the row this input is given';

/** Members that set no column of the row: what stands among values has no name here. */
const homeless = (members: readonly Pick<InputField, 'name' | 'node'>[], at: string): readonly Finding[] =>
  members.flatMap(({ name, node }): readonly Finding[] => {
    const path = `${at}.${name}`;
    if (node.kind === 'inputGroup') return homeless(node.fields, path);
    const isNameless = node.kind === 'set' ? node.column.name === '' : node.link.owner === 'values';
    return isNameless
      ? [{ path, message: 'this stands in no row: use the row that this input is given' }]
      : [];
  });

/** What is wrong with members that are sound by themselves: where they are from, and what they may not set. */
const faultsOf = (
  given: readonly ReadMember<InputRef>[],
  name: string,
  home: Home | null,
): readonly Finding[] => {
  // What a member is in each of its editions.
  const members = given.flatMap(({ name: member, value }) =>
    refsOf(value).map((ref) => ({ name: member, value: ref })),
  );
  const strays = members
    .filter(({ value }) => home !== null && value.home !== null && value.home.origin !== home.origin)
    .map((member) => ({ path: `${name}.${member.name}`, message: otherInput }));
  const made = unassignedIn(given).map(({ at, column, by }) => ({
    path: [name, ...at].join('.'),
    message: `${column} is ${by}: leave it out, or say assigned(v.${column})`,
  }));
  const nowhere = homeless(
    members.map((member) => ({ name: member.name, node: member.value.node })),
    name,
  );
  return [...strays, ...made, ...nowhere];
};

const refsOf = (ref: InputRef): readonly InputRef[] => [
  ref,
  ...(ref.otherwise === null ? [] : refsOf(ref.otherwise)),
];

/** Columns that two members set in one edition. */
const twice = (fields: readonly InputField[], name: string): readonly Finding[] => {
  const found = epochsOf((here) => inputFieldsIn(fields, here)).flatMap((edition) =>
    twiceAtOnce(inputFieldsIn(fields, { edition, met: new Set() }), name),
  );
  return [...new Map(found.map((finding) => [JSON.stringify(finding), finding])).values()];
};

const twiceAtOnce = (fields: readonly InputField[], name: string): readonly Finding[] => {
  const seen = new Map<string, string>();
  return targets(fields, name).flatMap(([column, member]): Finding[] => {
    const other = seen.get(column);
    seen.set(column, member);
    // What has no name here was told already.
    return other === undefined || column === ''
      ? []
      : [{ path: member, message: `sets ${column}, as ${other} does` }];
  });
};

/** Findings in the order in which the members stand in the literal. */
const inOrder = (findings: readonly Finding[], literal: unknown, name: string): readonly Finding[] => {
  const names = Object.keys(Object(literal)).map((member) => `${name}.${member}`);
  const placeOf = ({ path }: Finding): number =>
    names.findIndex((member) => path === member || path.startsWith(`${member}.`));
  return [...findings].sort((a, b) => placeOf(a) - placeOf(b));
};

/** Reads an input's literal. @throws {DeclarationError} listing everything in it that cannot be set */
const readFields = (literal: unknown, name: string, home: Home | null): readonly InputField[] => {
  const { members, broken } = isPlainLiteral(literal)
    ? readLiteral(literal, inputRefOf)
    : { members: [], broken: new Broken('expected an object of members') };
  const fields = fieldsOf(members);
  const faults = [...(broken?.findings(name) ?? []), ...faultsOf(members, name, home)];
  DeclarationError.throwIfAny(`input "${name}"`, [...inOrder(faults, literal, name), ...twice(fields, name)]);
  return fields;
};

const callable = <I>(plan: InputPlan): I => {
  const call = (over: unknown, limits?: RowLimits): unknown => handOutInput(nestedRef(plan, over, limits));
  // The callable's overloads and the fields' types exist for the compiler only.
  return freeze(Object.assign(call, { plan, '~standard': standardOf(plan) })) as I;
};

/** The literal that fields come from: groups that have to be there are objects again, as they were declared. */
const literalOf = (fields: readonly InputField[]): Readonly<Record<string, unknown>> => {
  const byName = new Map<string, InputField[]>();
  for (const field of fields) byName.set(field.name, [...(byName.get(field.name) ?? []), field]);
  return Object.fromEntries(
    [...byName].map(([name, [first, ...rest]]) => [name, first && memberOf(first, rest)]),
  );
};

const memberOf = (field: InputField, others: readonly InputField[]): unknown => {
  const { node, presence, when } = field;
  const isPlain = presence.kind === 'required' && when === null;
  return node.kind === 'inputGroup' && isPlain ? literalOf(node.fields) : handOutInput(refOf(field, others));
};

/** The member that became several fields: one for each of its editions. */
const refOf = (
  { node, presence, when }: Omit<InputField, 'name'>,
  [second, ...rest]: readonly InputField[],
): InputRef => {
  const otherwise = second === undefined ? null : refOf(second, rest);
  return { node, presence, when, otherwise, home: null, unassigned: [] };
};

const planOf = (
  entity: EntityPlan,
  name: string,
  about: string | null,
  fields: readonly InputField[],
): InputPlan => freeze({ kind: 'input', name, entity, about, fields, amends: false, fixed: freeze([]) });

/**
 * Declares what comes in for a row of an entity: the same row and literal as for a shape,
 * restricted to what can be set.
 *
 * @param over the entity
 * @param declare given the row, returns the members: columns, conversions with a way back, groups,
 * nested inputs over links; each of them required unless it is `optional` or `preset`
 * @param options `name`: what messages and descriptions call it
 * @returns the input; call it with a link inside another one to nest it
 * @throws {DeclarationError} `DECLARATION` listing everything in the literal that cannot be set
 * @example
 * input(db.vessel, (v) => ({ imoNumber: v.imoNumber, name: v.name, operator: { id: v.operatorId } }))
 */
export const input = <M extends ModelTypes, K extends EntityName<M>, const F extends Literal>(
  over: Bound<M, K>,
  declare: (row: InputRow<M, K>) => CheckedTargets<F>,
  options: ShapeOptions = {},
): Input<M, K, F> => {
  const name = options.name ?? (declare.name || over.entity.name);
  if (over.entity.readOnly) throw new DeclarationError(`input "${name}"`, [onlyRead(over.entity, name)]);
  const place = rootRow(over);
  const untyped = declare as unknown as (row: object) => unknown;
  const fields = readFields(untyped(rowRef(place)), name, place.home);
  DeclarationError.throwIfAny(`input "${name}"`, chosenBy(name, untyped));
  const plan = planOf(over.entity, name, options.about ?? null, fields);
  DeclarationError.throwIfAny(`input "${name}"`, presetFindings(plan));
  return callable(plan);
};

const onlyRead = (entity: EntityPlan, path: string): Finding => ({
  path,
  message: `the rows of ${entity.name} are only read: take an input over the table that they are made from`,
});

const isForSome = (when: ConditionNode): boolean => leavesOf(when).some(({ kind }) => kind === 'audience');

/**
 * The members of one literal that another one leaves out, groups opened, as dotted names. Those for some audiences are
 * not among them: the others are not told of them.
 */
const leftOut = (all: unknown, kept: unknown, at: string): FixedMember[] => {
  if (!isPlainLiteral(all)) return [];
  const rest = isPlainLiteral(kept) ? kept : {};
  return Object.keys(all).flatMap((name) => {
    const path = at === '' ? name : `${at}.${name}`;
    const member = inputRefOf(all[name]);
    if (!(name in rest)) return fixedAt(path, member);
    return member instanceof Broken ? [] : leftOut(all[name], rest[name], path);
  });
};

/** A member that was left out, in the editions that have it. */
const fixedAt = (member: string, ref: InputRef | Broken): FixedMember[] => {
  if (ref instanceof Broken) return [freeze({ member, when: null })];
  const whens = refsOf(ref).map(({ when }) => when);
  if (whens.some((when) => when !== null && isForSome(when))) return [];
  const anywhere = whens.includes(null) ? null : anyOf(...whens.filter((when) => when !== null));
  return [freeze({ member, when: anywhere })];
};

/**
 * Declares a merge patch (RFC 7396) of an input: what is absent stays unchanged, null clears what
 * may be null. A member of the input that is left out here is set once, when the row is created.
 *
 * @param create the input that creates rows
 * @param declare given the members of that input, returns those that may be changed
 * @throws {DeclarationError} `DECLARATION`, as for `input`
 * @example
 * amending(NewVessel, ({ imoNumber, ...rest }) => rest)
 */
export const amending = <F extends InputFields, const G extends InputFields, K>(
  create: InputOf<F, boolean, K>,
  declare: (members: F) => G,
  options: ShapeOptions = {},
): StandardInput<G, true, K> => {
  const literal = literalOf(create.plan.fields);
  // What fields are read from is of their type: the plan was made from it.
  const kept = declare({ ...literal } as F);
  const name = options.name ?? `amend ${create.plan.name}`;
  if (create.plan.entity.kind === 'values')
    throw new DeclarationError(`input "${name}"`, [
      { path: name, message: 'values stand in no table, so there is no row to amend: take them as they are' },
    ]);
  const plan: InputPlan = freeze({
    ...planOf(create.plan.entity, name, options.about ?? null, readFields(kept, name, null)),
    amends: true,
    fixed: freeze(leftOut(literal, kept, '')),
  });
  return callable(plan);
};
