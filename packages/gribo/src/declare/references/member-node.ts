import type { DeclaredField } from '../../plan/declared.js';
import { describeValue } from '../../util/describe-value.js';
import { freeze } from '../../util/freeze.js';
import { isPlainLiteral } from '../../util/is-plain-literal.js';
import { Broken, type Home, type ListPlace, MemberRef, type RowPlace, referenceOf } from './member.js';
import { allBroken, type ReadMember, readLiteral } from './read-literal.js';

/** The sentence that compiler and runtime share about sealed members. */
const sealedMessage = (labels: readonly string[]): string =>
  `this column is sealed (${labels.join(', ')}): wrap it in unseal(audience, …) or masked(…), or leave it out`;

const otherRow = 'it was made from the row of another shape; use the row this shape is given';

const placeMessage = ({ kind }: RowPlace | ListPlace): string =>
  kind === 'row'
    ? 'this is a whole row: nest it with a shape, Shape(v.link), or name its columns'
    : 'these are many rows: nest them with a shape, Shape(v.links), or use count(v.links) or first(v.links, Shape)';

const noMember = (value: unknown): Broken => {
  const hint =
    typeof value === 'function' ? 'a shape is called with a row: Shape(v.link)' : 'use constant(…)';
  return new Broken(`expected a member, got ${describeValue(value)}; ${hint}`);
};

/**
 * The member or group behind a value, or everything that is wrong with it.
 *
 * @param home the row that its members must be of; null where that is not known yet
 */
export const memberNode = (value: unknown, home: Home | null = null): MemberRef | Broken => {
  const reference = referenceOf(value);
  if (reference instanceof MemberRef || reference instanceof Broken) return reference;
  if (reference !== null) return new Broken(placeMessage(reference));
  return isPlainLiteral(value) ? groupNode(value, home) : noMember(value);
};

/** A member that nothing around it can unseal any more. */
const openMember = (value: unknown, home: Home | null): MemberRef | Broken => {
  const member = memberNode(value, home);
  return member instanceof Broken || member.seals.length === 0
    ? member
    : new Broken(sealedMessage(member.seals));
};

/** Members of other rows than the one they should be of. */
const strays = (members: readonly ReadMember<MemberRef>[], home: Home | null): readonly Broken[] =>
  members
    .filter(({ value }) => value.home !== null && value.home.origin !== home?.origin)
    .map(({ name }) => new Broken(otherRow).inside(name));

/** A literal as one member: it belongs to the row of its members. */
export const groupNode = (
  literal: Readonly<Record<string, unknown>>,
  wanted: Home | null,
): MemberRef | Broken => {
  const { members, broken } = readLiteral(literal, (value) => openMember(value, wanted));
  const home = wanted ?? members.find(({ value }) => value.home !== null)?.value.home ?? null;
  const wrong = allBroken([...(broken === null ? [] : [broken]), ...strays(members, home)]);
  if (wrong !== null) return wrong;
  const fields = members.map(({ name, value }): DeclaredField => freeze({ name, node: value.node }));
  return new MemberRef({ kind: 'group', fields: freeze(fields) }, home);
};
