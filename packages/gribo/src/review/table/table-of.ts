import type { EndpointPlan } from '../../plan/api-plan.js';
import { answers } from '../../plan/audiences-at.js';
import { freeze } from '../../util/freeze.js';

/** What a member is, with those whom it is so for. */
export type ForWhom<T> = T & {
  /** Null among them: callers of no audience; null: all that the endpoint answers, of those that the table tells apart. */
  readonly whom: readonly (string | null)[] | null;
};

/** A member, with what it is at each endpoint: nothing where it is absent. */
export interface MemberLine<T> {
  readonly member: string;
  readonly cells: Readonly<Record<string, readonly ForWhom<T>[]>>;
}

/** What one member is, each time with those whom it is so for. */
const waysOf = <T>(
  member: string,
  byAudience: readonly (readonly [string | null, ReadonlyMap<string, T>])[],
): readonly ForWhom<T>[] => {
  const groups = new Map<string, { readonly seen: T; readonly whom: (string | null)[] }>();
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

/**
 * A table of members by endpoints, with audiences told apart where they differ.
 *
 * @param membersOf what each member is at an endpoint, for an audience; null: for callers of none
 */
export const tableOf = <T extends object>(
  endpoints: readonly EndpointPlan[],
  audiences: readonly (string | null)[],
  membersOf: (endpoint: EndpointPlan, audience: string | null) => ReadonlyMap<string, T>,
): readonly MemberLine<T>[] => {
  const seen = endpoints.map((endpoint) => {
    const byAudience = audiences
      .filter((audience) => answers(endpoint, audience))
      .map((audience) => [audience, membersOf(endpoint, audience)] as const);
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
