import type { Finding } from '../../errors/declaration-error.js';
import type { DeclaredField, DeclaredNode } from '../../plan/declared.js';
import { describeValue } from '../../util/describe-value.js';
import { freeze } from '../../util/freeze.js';
import { isPlainLiteral } from '../../util/is-plain-literal.js';
import { Broken, type Home, MemberRef, type Reference, referenceOf } from '../references/member.js';

/** The sentence that compiler and runtime share about sealed members. */
const sealedMessage = (labels: readonly string[]): string =>
  `this column is sealed (${labels.join(', ')}): wrap it in unseal(audience, …) or masked(…), or leave it out`;

const otherRow = 'it was made from the row of another shape; use the row this shape is given';

/** Why a reference cannot be a member, or null where it can. */
const refusal = (reference: Reference, home: Home): string | null => {
  if (reference instanceof Broken) return reference.message;
  if (reference.home !== null && reference.home.origin !== home.origin) return otherRow;
  if (reference instanceof MemberRef) {
    return reference.seals.length > 0 ? sealedMessage(reference.seals) : null;
  }
  return reference.kind === 'row'
    ? 'this is a whole row: nest it with a shape, Shape(v.link), or name its columns'
    : 'these are many rows: nest them with a shape, Shape(v.links), or use count(v.links) or first(v.links, Shape)';
};

/** Turns a shape's literal into fields, and gathers everything in it that is no member. */
export class FieldReader {
  readonly findings: Finding[] = [];
  readonly #home: Home;

  constructor(home: Home) {
    this.#home = home;
  }

  /** The fields of a literal; `at` is where it stands. */
  fields(literal: unknown, at: string): readonly DeclaredField[] {
    if (!isPlainLiteral(literal)) {
      this.#refuse(at, `expected an object of members, got ${describeValue(literal)}`);
      return [];
    }
    const fields: DeclaredField[] = [];
    for (const name of Object.keys(literal)) {
      const node = this.node(literal[name], `${at}.${name}`);
      if (node !== null) fields.push(freeze({ name, node }));
    }
    return freeze(fields);
  }

  /** The node of one member or group; null where it is neither. */
  node(value: unknown, at: string): DeclaredNode | null {
    const reference = referenceOf(value);
    if (reference !== null) {
      const message = refusal(reference, this.#home);
      if (message === null && reference instanceof MemberRef) return reference.node;
      return this.#refuse(at, message ?? 'expected a member');
    }
    if (isPlainLiteral(value)) return freeze({ kind: 'group', fields: this.fields(value, at) });
    const hint =
      typeof value === 'function' ? 'a shape is called with a row: Shape(v.link)' : 'use constant(…)';
    return this.#refuse(at, `expected a member, got ${describeValue(value)}; ${hint}`);
  }

  #refuse(path: string, message: string): null {
    this.findings.push({ path, message });
    return null;
  }
}
