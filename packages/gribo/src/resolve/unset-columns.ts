import type { EndpointPlan } from '../plan/api-plan.js';
import type { ColumnPlan } from '../plan/entity-plan.js';
import type { InputField, InputPlan } from '../plan/input-plan.js';
import { settledInput } from './settle-input.js';

/** Whether a row cannot be without a value that somebody gives. */
const isNeeded = ({ nullable, generated, defaulted, stamped }: ColumnPlan): boolean =>
  !(nullable || generated || defaulted || stamped !== null);

/** Collects what an input sets, and what rows within it lack. */
class Setting {
  readonly set: Set<string>;
  readonly lacking: string[] = [];

  constructor(given: readonly string[]) {
    this.set = new Set(given);
  }

  fields(fields: readonly InputField[], at: string): void {
    for (const { name, node, presence } of fields) {
      const member = `${at}${name}`;
      if (node.kind === 'set') this.set.add(node.column.name);
      else if (node.kind === 'inputGroup') this.fields(node.fields, `${member}.`);
      else {
        const { link, input } = node;
        if (link.reference === 'here') for (const column of link.from) this.set.add(column);
        // Rows that may be left out do not keep one from being made; those in the middle may be there already.
        if (presence.kind !== 'required' || link.through !== null) continue;
        const given = link.reference === 'there' ? link.to : [];
        this.lacking.push(...unset(input, given).map((column) => `${member}.${column}`));
      }
    }
  }
}

const unset = (input: InputPlan, given: readonly string[]): readonly string[] => {
  const setting = new Setting(given);
  setting.fields(input.fields, '');
  const own = input.entity.columns.filter((column) => isNeeded(column) && !setting.set.has(column.name));
  return [...own.map(({ name }) => name), ...setting.lacking];
};

/**
 * The columns without which no row can be made, and which a create does not set: it cannot succeed by itself.
 *
 * @param endpoint the endpoint
 * @param audience who asks it; null: callers of no audience
 * @example
 * unsetColumns(harbour.plan.endpoints[0], 'agent')
 */
export const unsetColumns = (
  { operation, takes, under }: EndpointPlan,
  audience: string | null,
): readonly string[] =>
  operation === 'create' && takes !== null
    ? unset(settledInput(takes, audience), under?.link.from ?? [])
    : [];
