import { DeclarationError } from '../../errors/declaration-error.js';
import type { DeclaredField } from '../../plan/declared.js';
import { describeValue } from '../../util/describe-value.js';
import { isPlainLiteral } from '../../util/is-plain-literal.js';
import { Broken, type Home } from '../references/member.js';
import { groupNode } from '../references/member-node.js';

/**
 * Turns a shape's literal into fields.
 *
 * @param subject what the error is about
 * @param name the shape's name: paths start with it
 * @throws {DeclarationError} `DECLARATION` listing everything in the literal that is no member
 */
export const readFields = (
  subject: string,
  name: string,
  literal: unknown,
  home: Home,
): readonly DeclaredField[] => {
  const group = isPlainLiteral(literal)
    ? groupNode(literal, home)
    : new Broken(`expected an object of members, got ${describeValue(literal)}`);
  if (group instanceof Broken) throw new DeclarationError(subject, group.findings(name));
  return group.node.kind === 'group' ? group.node.fields : [];
};
