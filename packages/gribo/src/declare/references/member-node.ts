import type { DeclaredField } from '../../plan/declared.js';
import { describeValue } from '../../util/describe-value.js';
import { freeze } from '../../util/freeze.js';
import { isPlainLiteral } from '../../util/is-plain-literal.js';
import { Broken, type Home, MemberRef, referenceOf } from './member.js';

/** The member or group behind an argument, for members that wrap another one. */
export const memberNode = (value: unknown): MemberRef | Broken => {
  const reference = referenceOf(value);
  if (reference instanceof MemberRef || reference instanceof Broken) return reference;
  if (reference !== null)
    return new Broken('a whole row or link is no member: nest it with a shape, Shape(v.link)');
  if (!isPlainLiteral(value)) return new Broken(`expected a member, got ${describeValue(value)}`);
  return groupNode(value);
};

/** A group as one member: it belongs to the row of its members, and is sealed where one of them is. */
const groupNode = (literal: Record<string, unknown>): MemberRef | Broken => {
  const fields: DeclaredField[] = [];
  const seals: string[] = [];
  let home: Home | null = null;
  for (const name of Object.keys(literal)) {
    const inner = memberNode(literal[name]);
    if (inner instanceof Broken) return new Broken(`${name}: ${inner.message}`);
    if (home !== null && inner.home !== null && home.origin !== inner.home.origin) {
      return new Broken(
        `${name}: it was made from the row of another shape; use the row this shape is given`,
      );
    }
    home ??= inner.home;
    seals.push(...inner.seals);
    fields.push(freeze({ name, node: inner.node }));
  }
  return new MemberRef({ kind: 'group', fields: freeze(fields) }, home, seals);
};
