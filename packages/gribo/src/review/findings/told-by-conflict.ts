import type { ApiPlan } from '../../plan/api-plan.js';
import { audiencesAt } from '../../plan/audiences-at.js';
import type { ColumnPlan } from '../../plan/entity-plan.js';
import { rulesFor } from '../../resolve/rules-for.js';
import type { FindingRule } from '../finding.js';

/** Whether somebody who sets it may not see all of the rows that have the value. */
const isOfHidden = (api: ApiPlan, endpointName: string, entity: string): boolean => {
  const endpoint = api.endpoints.find(({ name }) => name === endpointName);
  if (endpoint === undefined) return false;
  return audiencesAt(endpoint, api).some((to) => (rulesFor(api, to).get(entity)?.see ?? null) !== null);
};

export const toldByConflict: FindingRule = {
  code: 'told-by-conflict',
  severity: 'note',
  rule: 'A conflict tells whether a value is there that is sealed, or in a row that is hidden.',
  advice: 'Let only those set it who may know, or accept that they can ask value by value.',
  find: ({ api, flows }) => {
    const unique = new Map<string, ColumnPlan>(
      api.endpoints.flatMap(({ entity }) =>
        entity.columns
          .filter(({ unique: isUnique, key }) => isUnique || key)
          .map((column) => [`${entity.name}.${column.name}`, column] as const),
      ),
    );
    const found = new Map<string, readonly string[]>();
    for (const flow of flows) {
      const place = `${flow.entity}.${flow.column}`;
      const column = unique.get(place);
      if (flow.kind !== 'set' || column === undefined) continue;
      if (column.sealed === null && !isOfHidden(api, flow.endpoint, flow.entity)) continue;
      found.set(place, [...new Set([...(found.get(place) ?? []), flow.endpoint])]);
    }
    return [...found].map(([place, endpoints]) => {
      const why =
        (unique.get(place)?.sealed ?? null) === null
          ? 'unique, also among rows that are hidden'
          : 'sealed and unique';
      return {
        place,
        message: `It is ${why}, and set at ${endpoints.join(', ')}: 409 tells that a row has the value already.`,
      };
    });
  },
};
