import type { Difference, Flow } from 'gribo';

/** A thing that a client has to do, or may. */
export interface Step {
  readonly side: Difference['side'];
  readonly code: Difference['code'];
  readonly effect: Difference['effect'];
  /** The member as it was called, and as it is; null: it was not there, or is not any more. */
  readonly was: string | null;
  readonly is: string | null;
  readonly message: string;
  readonly reach: Difference['reach'];
}

type Reach = Difference['reach'][number];

/** A difference at one endpoint. */
interface Local {
  readonly difference: Difference;
  readonly reach: Reach;
}

/** What the members at a path are made from, at an endpoint: each as a text, with its path. */
const leavesAt = (
  flows: readonly Flow[],
  endpoint: string,
  path: string,
  isTaken: boolean,
): readonly (readonly [path: string, from: string])[] => {
  const kinds = isTaken ? ['set'] : ['sent', 'converted', 'computed'];
  const byMember = new Map<string, string[]>();
  for (const { member, entity, column, kind, conversions, ...flow } of flows) {
    if (flow.endpoint !== endpoint || !kinds.includes(kind)) continue;
    if (member !== path && !member.startsWith(`${path}.`)) continue;
    const from = [...(byMember.get(member) ?? []), `${entity}.${column} ${kind} ${conversions.join()}`];
    byMember.set(member, from);
  }
  return [...byMember].map(([member, from]) => [member, from.sort().join('\n')]);
};

/** What members are made from, before and after. */
interface Flows {
  readonly before: readonly Flow[];
  readonly after: readonly Flow[];
}

/** The members that went at an endpoint and came under another name: of the same columns in the same way. */
const movesOf = (
  at: readonly Local[],
  { before, after }: Flows,
): ReadonlyMap<Local, readonly [Local, string]> => {
  const moves = new Map<Local, readonly [Local, string]>();
  const taken = new Set<Local>();
  for (const gone of at.filter(({ difference }) => difference.code === 'member-removed')) {
    const { side, path } = gone.difference;
    const [was] = leavesAt(before, gone.reach.endpoint, path, side === 'request');
    for (const came of at) {
      const { code, side: other, path: place } = came.difference;
      if (was === undefined || code !== 'member-added' || other !== side || taken.has(came)) continue;
      const leaves = leavesAt(after, came.reach.endpoint, place, side === 'request');
      const [is] = leaves;
      if (is === undefined || leaves.length > 1 || is[1] !== was[1]) continue;
      moves.set(gone, [came, is[0]]);
      taken.add(came);
      break;
    }
  }
  return moves;
};

const asStep = ({ difference, reach }: Local): Step => {
  const { side, code, effect, path, message } = difference;
  const was = code === 'member-added' || code === 'parameter-added' ? null : path;
  const is = code === 'member-removed' || code === 'parameter-removed' ? null : path;
  return { side, code, effect, was, is, message, reach: [reach] };
};

const stepsAt = (at: readonly Local[], flows: Flows): readonly Step[] => {
  const moves = movesOf(at, flows);
  const came = new Set([...moves.values()].map(([local]) => local));
  return at
    .filter((local) => !came.has(local))
    .map((local): Step => {
      const is = moves.get(local)?.[1];
      if (is === undefined) return asStep(local);
      const was = local.difference.path;
      return { ...asStep(local), effect: 'breaking', was, is, message: `\`${was}\` is \`${is}\` now.` };
    });
};

/** Steps that are the same at several endpoints are one. */
const joined = (steps: readonly Step[]): readonly Step[] => {
  const found = new Map<string, Step>();
  for (const { reach, ...step } of steps) {
    const key = JSON.stringify(step);
    found.set(key, { ...step, reach: [...(found.get(key)?.reach ?? []), ...reach] });
  }
  return [...found.values()];
};

/**
 * Differences as steps from one edition to another: a member that went and one that came, of the same columns in the same way, is one
 * that moved.
 */
export const editionSteps = (differences: readonly Difference[], flows: Flows): readonly Step[] => {
  const byEndpoint = new Map<string, Local[]>();
  for (const difference of differences)
    for (const reach of difference.reach) {
      const known = byEndpoint.get(reach.endpoint) ?? [];
      byEndpoint.set(reach.endpoint, [...known, { difference, reach }]);
    }
  return joined([...byEndpoint.values()].flatMap((at) => stepsAt(at, flows)));
};
