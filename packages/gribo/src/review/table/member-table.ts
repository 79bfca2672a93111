import type { ApiPlan, EndpointPlan } from '../../plan/api-plan.js';
import type { ResolvedField, ResolvedNode } from '../../plan/resolved.js';
import { type Cell, cellsAt } from '../../resolve/matrix.js';
import { namesAsked, unasked } from '../../resolve/open-asks.js';
import { freeze } from '../../util/freeze.js';

/** What is sent as a member: the value as it is, from where, or what was made of it. */
export type How =
  | { readonly kind: 'sent' | 'unsealed' | 'computed' | 'constant' | 'object' | 'list' }
  /** From behind links: their names, then the column's. */
  | { readonly kind: 'linked'; readonly path: readonly string[] }
  | { readonly kind: 'converted'; readonly by: string };

/** When a member is there, where it is not always: for some rows, where it is not null, or where one of these is asked for. */
export type When =
  | { readonly kind: 'rows' | 'notNull' }
  | { readonly kind: 'asked'; readonly names: readonly string[] };

/** One way in which a member is sent at an endpoint. */
export interface Way {
  readonly how: How;
  /** Null: always. */
  readonly when: When | null;
  /** Whom it is for, null standing for callers of no audience; null: all that the table tells apart. */
  readonly whom: readonly (string | null)[] | null;
}

/** A member, with the ways in which it is sent at each endpoint: none where it is absent. */
export interface TableLine {
  readonly member: string;
  readonly cells: Readonly<Record<string, readonly Way[]>>;
}

/** How a member is for one audience. */
type Seen = Omit<Way, 'whom'>;

const howOf = (node: Exclude<ResolvedNode, { kind: 'group' }>): How => {
  switch (node.kind) {
    case 'column':
      if (node.column.sealed !== null) return { kind: 'unsealed' };
      return node.path.length === 0
        ? { kind: 'sent' }
        : { kind: 'linked', path: [...node.path.map(({ name }) => name), node.column.name] };
    case 'derived':
    case 'fact':
    case 'count':
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
  return unasked(condition) === false ? { kind: 'asked', names: namesAsked(condition) } : { kind: 'rows' };
};

/** Groups are opened, nested shapes are not: they have tables of their own. */
const gather = (
  fields: readonly ResolvedField[],
  prefix: string,
  around: When | null,
  seen: Map<string, Seen>,
): void => {
  for (const field of fields) {
    const { name, node } = field;
    const when = whenOf(field) ?? around;
    const path = prefix + name;
    if (node.kind === 'group') gather(node.fields, `${path}.`, when, seen);
    else seen.set(path, { how: howOf(node), when });
  }
};

const seenIn = ({ open }: Cell): ReadonlyMap<string, Seen> => {
  const seen = new Map<string, Seen>();
  gather(open.content.fields, '', null, seen);
  return seen;
};

/** The ways of one member, each with those whom it is for. */
const waysOf = (
  member: string,
  byAudience: readonly (readonly [string | null, ReadonlyMap<string, Seen>])[],
): readonly Way[] => {
  const groups = new Map<string, { readonly seen: Seen; readonly whom: (string | null)[] }>();
  for (const [audience, members] of byAudience) {
    const seen = members.get(member);
    if (seen === undefined) continue;
    const key = JSON.stringify(seen);
    const group = groups.get(key) ?? { seen, whom: [] };
    group.whom.push(audience);
    groups.set(key, group);
  }
  return [...groups.values()].map(({ seen, whom }) =>
    freeze({ ...seen, whom: whom.length === byAudience.length ? null : whom }),
  );
};

const NOTHING: ReadonlyMap<string, Seen> = new Map();

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
  const seen = endpoints.map((endpoint) => {
    const cells = cellsAt(api, endpoint);
    const byAudience = audiences.map((audience) => {
      const cell = cells.find((one) => one.audience === audience);
      return [audience, cell === undefined ? NOTHING : seenIn(cell)] as const;
    });
    return [endpoint.name, byAudience] as const;
  });
  const members = new Set(seen.flatMap(([, all]) => all.flatMap(([, found]) => [...found.keys()])));
  return freeze(
    [...members].map((member) =>
      freeze({
        member,
        cells: freeze(Object.fromEntries(seen.map(([name, all]) => [name, waysOf(member, all)]))),
      }),
    ),
  );
};
