import type { EndpointPlan } from '../../plan/api-plan.js';
import type { InputField, InputPlan } from '../../plan/input-plan.js';
import { mayBeAbsent } from '../../plan/may-be-absent.js';
import { settledInput } from '../../resolve/settle-input.js';
import { type ForWhom, type MemberLine, tableOf } from './table-of.js';

/** What a member of an input is for one audience. */
export interface Taking {
  /** The column that it sets, or the link whose rows it brings. */
  readonly sets: string;
  /** The conversions that lead back, the first one first. */
  readonly by: readonly string[];
  readonly presence: 'required' | 'optional' | 'preset';
}

/** What a member of an input is at an endpoint, and for whom. */
export type TakenWay = ForWhom<Taking>;

/** A member of inputs, with what it is at each endpoint: nothing where it may not come in. */
export type InputLine = MemberLine<Taking>;

const presenceOf = ({ presence, node }: InputField): Taking['presence'] => {
  if (presence.kind === 'preset') return 'preset';
  return mayBeAbsent(presence, node) ? 'optional' : 'required';
};

/**
 * Groups are opened: what is in a group that may be left out may be left out with it. A merge patch requires nothing and
 * presets nothing.
 */
const gather = (
  fields: readonly InputField[],
  prefix: string,
  isWaived: boolean,
  found: Map<string, Taking>,
): void => {
  for (const field of fields) {
    const { name, node } = field;
    const presence = isWaived ? 'optional' : presenceOf(field);
    if (node.kind === 'inputGroup') gather(node.fields, `${prefix}${name}.`, presence !== 'required', found);
    else if (node.kind === 'set')
      found.set(prefix + name, {
        sets: node.column.name,
        by: node.conversions.map((conversion) => conversion.name),
        presence,
      });
    else found.set(prefix + name, { sets: node.link.name, by: [], presence });
  }
};

const takenBy = (input: InputPlan, audience: string | null): ReadonlyMap<string, Taking> => {
  const found = new Map<string, Taking>();
  const { fields, amends } = settledInput(input, audience);
  gather(fields, '', amends, found);
  return found;
};

/**
 * Which member comes in at which endpoint, from whom, and what it sets: as data, for tables of one's own.
 *
 * @param endpoints those to compare; they take inputs over one entity
 * @param audiences those to tell apart, null standing for callers of no audience
 * @returns a line for each member, in the order in which they are found
 * @example
 * inputTable(harbour.plan.endpoints, ['agent']).map(({ member }) => member)
 */
export const inputTable = (
  endpoints: readonly EndpointPlan[],
  audiences: readonly (string | null)[],
): readonly InputLine[] =>
  tableOf(endpoints, audiences, (endpoint, audience) =>
    endpoint.takes === null ? new Map() : takenBy(endpoint.takes, audience),
  );
