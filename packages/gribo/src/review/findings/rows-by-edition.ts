import { sayCondition } from '../../plan/say-condition.js';
import type { FindingRule } from '../finding.js';

export const rowsByEdition: FindingRule = {
  code: 'rows-by-edition',
  severity: 'warning',
  editions: 'newest',
  rule: 'Which rows a caller sees or changes depends on the edition that it names.',
  advice:
    'Whoever is kept from a row in one edition may ask in another: give all of them the stricter rule, or accept it.',
  find: ({ editions }) => {
    const rules = new Map<string, Set<string>>();
    for (const { rules: own } of editions)
      for (const { entity, see, change } of own) {
        const known = rules.get(entity.name) ?? new Set();
        rules.set(entity.name, known.add(`${sayCondition(see)}\n${sayCondition(change)}`));
      }
    return [...rules].flatMap(([place, said]) =>
      said.size < 2 ? [] : [{ place, message: `There are ${said.size} rules for its rows, by edition.` }],
    );
  },
};
