import type { FindingRule } from '../finding.js';

export const toldByConflict: FindingRule = {
  code: 'told-by-conflict',
  severity: 'note',
  rule: 'A conflict tells whether a sealed value is there.',
  advice: 'Let only those set it who may know, or accept that they can ask value by value.',
  find: ({ api, flows }) => {
    const unique = new Set(
      api.endpoints.flatMap(({ entity }) =>
        entity.columns
          .filter(({ sealed, unique: isUnique, key }) => sealed !== null && (isUnique || key))
          .map(({ name }) => `${entity.name}.${name}`),
      ),
    );
    const found = new Map<string, readonly string[]>();
    for (const flow of flows) {
      const column = `${flow.entity}.${flow.column}`;
      if (flow.kind !== 'set' || !unique.has(column)) continue;
      found.set(column, [...new Set([...(found.get(column) ?? []), flow.endpoint])]);
    }
    return [...found].map(([place, endpoints]) => ({
      place,
      message: `It is sealed and unique, and set at ${endpoints.join(', ')}: 409 tells that a row has the value already.`,
    }));
  },
};
