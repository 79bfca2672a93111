import type { SettledValue } from '../../plan/condition.js';
import type { PageSettings } from '../../plan/declared.js';
import type { EntityPlan } from '../../plan/entity-plan.js';
import { allOf } from '../../plan/joined.js';
import { mayBeNull, mayEndInNull } from '../../plan/null-safety.js';
import type { ResolvedField, ResolvedNode, ResolvedShape } from '../../plan/resolved.js';
import { valueType } from '../../plan/value-type.js';
import { namesAsked, unasked } from '../../resolve/open-asks.js';
import type { ContractMember, ContractType } from '../contract.js';
import { contractValue } from './contract-value.js';
import { describeCondition } from './describe-condition.js';
import { aboutOf, jsonExample } from './describe-value.js';

/** What members are described with. */
export interface MemberContext {
  /** The name under which a nested shape is kept. */
  readonly nameOf: (shape: ResolvedShape) => string;
  /** The entity whose shape they are members of. */
  readonly of: EntityPlan;
  /** How the body is paged: it says what is known about every page. */
  readonly page: PageSettings | null;
}

type Type = ContractType<ContractMember>;

const constantType = (node: Extract<SettledValue, { kind: 'constant' }>): Type => ({
  kind: 'constant',
  value: node.value,
});

const typeOf = (node: ResolvedNode, context: MemberContext): Type => {
  switch (node.kind) {
    case 'constant':
      return constantType(node);
    case 'column':
    case 'derived':
    case 'converted':
    case 'fact':
    case 'figure':
      return contractValue(valueType(node));
    case 'group':
      return { kind: 'group', members: node.fields.map((field) => describeMember(field, context)) };
    case 'nested':
    case 'first':
      return { kind: 'object', of: context.nameOf(node.shape) };
    case 'nestedList': {
      const { limit, where } = node.selection;
      return {
        kind: 'list',
        of: context.nameOf(node.shape),
        ...(limit === null ? {} : { limit }),
        ...(where.length === 0 ? {} : { where: describeCondition(allOf(...where)) }),
      };
    }
    default:
      return node satisfies never;
  }
};

/** What a page by number and a page by cursor always have. */
const ALWAYS_KNOWN: Readonly<Record<PageSettings['by'], readonly string[]>> = {
  number: ['number', 'size'],
  cursor: ['size'],
};

const isKnownOfPage = (name: string, { by, totals }: PageSettings): boolean => {
  if (ALWAYS_KNOWN[by].includes(name)) return true;
  return totals && (name === 'total' || (name === 'pages' && by === 'number'));
};

const isNullable = (node: ResolvedNode, { of, page }: MemberContext): boolean => {
  switch (node.kind) {
    case 'column':
      if (page !== null && of.kind === 'envelope' && node.path.length === 0)
        return !isKnownOfPage(node.column.name, page);
      return mayBeNull(node);
    case 'derived':
    case 'fact':
    case 'converted':
    case 'constant':
    case 'figure':
      return mayBeNull(node);
    case 'group':
      return false;
    case 'nested':
    case 'nestedList':
      return mayEndInNull(node.path);
    case 'first':
      return true;
    default:
      return node satisfies never;
  }
};

const isValue = (node: ResolvedNode): node is SettledValue =>
  node.kind !== 'group' && node.kind !== 'nested' && node.kind !== 'nestedList' && node.kind !== 'first';

/** Whether a value may be the JSON null, which JSON columns may hold whatever they declare. */
const mayShowNull = (node: ResolvedNode, nullable: boolean): boolean =>
  nullable || (isValue(node) && valueType(node).kind === 'json');

/** When a member is there: nothing is said where it always is. */
const whenOf = (
  { condition, unlessNull, node }: ResolvedField,
  nullable: boolean,
): Pick<ContractMember, 'when' | 'where' | 'asks'> => {
  if (condition === null) return unlessNull && mayShowNull(node, nullable) ? { when: 'some' } : {};
  const asks = namesAsked(condition);
  const isAsked = unasked(condition) === false;
  return {
    when: isAsked ? 'asked' : 'some',
    ...(isAsked ? {} : { where: describeCondition(condition) }),
    ...(asks.length === 0 ? {} : { asks }),
  };
};

/** One member as its callers know it. */
export const describeMember = (field: ResolvedField, context: MemberContext): ContractMember => {
  const { name, node, unlessNull, deprecated } = field;
  const nullable = isNullable(node, context);
  const about = isValue(node) ? aboutOf(node) : null;
  const example = isValue(node) ? jsonExample(node) : undefined;
  return {
    name,
    type: typeOf(node, context),
    ...(nullable && !unlessNull ? { nullable: true } : {}),
    ...whenOf(field, nullable),
    ...(deprecated === null ? {} : { deprecated }),
    ...(about === null ? {} : { about }),
    ...(example === undefined ? {} : { example }),
  };
};
