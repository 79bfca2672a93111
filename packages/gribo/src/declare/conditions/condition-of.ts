import type { ColumnNode, ConditionNode, FilterOperator } from '../../plan/condition.js';
import { freeze } from '../../util/freeze.js';
import { handles } from '../references/handles.js';
import { Broken, type Home, MemberRef, referenceOf } from '../references/member.js';

/** A condition as it was built: its node, and the row it is about, if it is about one. */
export interface BuiltCondition {
  readonly kind: 'condition';
  readonly node: ConditionNode;
  readonly home: Home | null;
}

/** A comparison with what a caller will send: a filter, and whom it is for where it is not for everybody. */
export interface BuiltFilter {
  readonly kind: 'filter';
  readonly left: ColumnNode;
  readonly operator: FilterOperator;
  readonly home: Home | null;
  readonly when: ConditionNode | null;
  /** What is there in editions in which that does not hold; null: nothing. */
  readonly otherwise: BuiltFilter | null;
}

/** Conditions and filters as they are handed out. */
const built = handles<BuiltCondition | BuiltFilter | Broken>();

/** Hands out a condition or a filter under the type that the compiler sees. */
export const handOutCondition = <Seen>(made: BuiltCondition | BuiltFilter | Broken): Seen =>
  built.handOut(made);

/** `isNull` needs no value: it is a condition, and a filter where one is wanted. */
const openOf = (condition: BuiltCondition): BuiltFilter | null => {
  const { node, home } = condition;
  if (node.kind !== 'compares' || node.operator !== 'isNull') return null;
  return { kind: 'filter', left: node.left, operator: 'isNull', home, when: null, otherwise: null };
};

const expected = 'expected a condition such as equals(c.status, …), audience(…), asked(…) or holds(…)';

/** What a condition is made of, or why it is none: a to-many link is one that there are rows behind it. */
export const conditionOf = (value: unknown): BuiltCondition | Broken => {
  const made = built.behind(value);
  if (made instanceof Broken || made?.kind === 'condition') return made;
  if (made?.kind === 'filter')
    return new Broken(
      `${made.operator} compares a column of the row with a value: ${made.operator}(c.column, value)`,
    );
  const reference = referenceOf(value);
  if (reference instanceof Broken) return reference;
  if (reference === null || reference instanceof MemberRef) return new Broken(expected);
  if (reference.kind === 'row')
    return new Broken(
      'this is a row: compare one of its columns, or use isNull(…) of the column that leads to it',
    );
  const { path, link, selection, home } = reference;
  return {
    kind: 'condition',
    node: freeze({ kind: 'thereIs', path, link, selection, middle: freeze([]) }),
    home,
  };
};

/** What a filter compares, or why it is none. */
export const filterOf = (value: unknown): BuiltFilter | Broken => {
  const made = built.behind(value);
  if (made instanceof Broken || made?.kind === 'filter') return made;
  const open = made === null ? null : openOf(made);
  return (
    open ??
    new Broken('a filter names a column only, such as equals(v.flagState); the caller sends the value')
  );
};

/** Whether a value is a filter, for those that take other things too. */
export const isFilter = (value: unknown): boolean => {
  const made = built.behind(value);
  return made !== null && !(made instanceof Broken) && made.kind === 'filter';
};
