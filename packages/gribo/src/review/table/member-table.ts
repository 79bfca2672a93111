import type { ApiPlan, EndpointPlan } from '../../plan/api-plan.js';
import type { ResolvedField, ResolvedNode } from '../../plan/resolved.js';
import { sayCondition } from '../../plan/say-condition.js';
import { type Cell, cellsAt } from '../../resolve/matrix.js';
import { namesAsked, unasked } from '../../resolve/open-asks.js';
import { type ForWhom, type MemberLine, tableOf } from './table-of.js';

/** What is sent as a member: the value as it is, from where, or what was made of it. */
export type How =
  | { readonly kind: 'sent' | 'unsealed' | 'computed' | 'constant' | 'object' | 'list' }
  /** From behind links: their names, then the column's. */
  | { readonly kind: 'linked'; readonly path: readonly string[] }
  | { readonly kind: 'converted'; readonly by: string };

/** When a member is there, where it is not always: for some rows, where it is not null, or where one of these is asked for. */
export type When =
  /** With the condition, in words. */
  | { readonly kind: 'rows'; readonly where: string }
  | { readonly kind: 'notNull' }
  | { readonly kind: 'asked'; readonly names: readonly string[] };

/** How a member is for one audience. */
export interface Sending {
  readonly how: How;
  /** Null: always. */
  readonly when: When | null;
}

/** One way in which a member is sent at an endpoint. */
export type Way = ForWhom<Sending>;

/** A member, with the ways in which it is sent at each endpoint: none where it is absent. */
export type TableLine = MemberLine<Sending>;

const howOf = (node: Exclude<ResolvedNode, { kind: 'group' }>): How => {
  switch (node.kind) {
    case 'column':
      if (node.column.sealed !== null) return { kind: 'unsealed' };
      return node.path.length === 0
        ? { kind: 'sent' }
        : { kind: 'linked', path: [...node.path.map(({ name }) => name), node.column.name] };
    case 'derived':
    case 'fact':
    case 'figure':
      return { kind: 'computed' };
    case 'constant':
      return { kind: 'constant' };
    case 'converted':
      return { kind: 'converted', by: node.conversion.name };
    case 'nested':
    case 'first':
      return { kind: 'object' };
    case 'nestedList':
      return { kind: 'list' };
    default:
      return node satisfies never;
  }
};

const whenOf = ({ condition, unlessNull }: ResolvedField): When | null => {
  if (condition === null) return unlessNull ? { kind: 'notNull' } : null;
  return unasked(condition) === false
    ? { kind: 'asked', names: namesAsked(condition) }
    : { kind: 'rows', where: sayCondition(condition) };
};

/** Groups are opened, nested shapes are not: they have tables of their own. */
const gather = (
  fields: readonly ResolvedField[],
  prefix: string,
  around: When | null,
  seen: Map<string, Sending>,
): void => {
  for (const field of fields) {
    const { name, node } = field;
    const when = whenOf(field) ?? around;
    const path = prefix + name;
    if (node.kind === 'group') gather(node.fields, `${path}.`, when, seen);
    else seen.set(path, { how: howOf(node), when });
  }
};

const seenIn = ({ open }: Cell): ReadonlyMap<string, Sending> => {
  const seen = new Map<string, Sending>();
  gather(open.content.fields, '', null, seen);
  return seen;
};

/**
 * Which member appears at which endpoint, for whom, changed how: as data, for tables of one's own.
 *
 * @param api the API
 * @param endpoints those to compare; they send rows of one entity
 * @param audiences those to tell apart, null standing for callers of no audience
 * @returns a line for each member, in the order in which they are found
 * @example
 * memberTable(harbour.plan, harbour.plan.endpoints.slice(0, 2), [null])[0].member // => id
 */
export const memberTable = (
  api: ApiPlan,
  endpoints: readonly EndpointPlan[],
  audiences: readonly (string | null)[],
): readonly TableLine[] => {
  return tableOf(endpoints, audiences, (endpoint, audience) => {
    const cell = cellsAt(api, endpoint).find((one) => one.audience === audience);
    return cell === undefined ? new Map() : seenIn(cell);
  });
};
