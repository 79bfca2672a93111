import type { FindingRule } from '../finding.js';

export const everybodysRows: FindingRule = {
  code: 'everybodys-rows',
  severity: 'note',
  rule: 'Where other entities have row rules, one that only some audiences are answered about has none: each of them sees all of its rows.',
  advice:
    'Say in a rowRule which rows are whose, or accept it where all of them are for everybody who is answered.',
  find: ({ api }) => {
    if (api.rules.length === 0) return [];
    const ruled = api.rules.map(({ entity }) => entity.name);
    const guarded = new Map<string, string[]>();
    for (const { entity, name, audiences } of api.endpoints) {
      if (audiences === null || ruled.includes(entity.name)) continue;
      guarded.set(entity.name, [...(guarded.get(entity.name) ?? []), name]);
    }
    return [...guarded].map(([place, endpoints]) => ({
      place,
      message: `${endpoints.join(', ')} ${endpoints.length === 1 ? 'is' : 'are'} for some audiences, and no rule says whose the rows are.`,
    }));
  },
};
