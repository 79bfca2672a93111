import type { StoreCondition } from '../../plan/condition.js';
import { leavesOf } from '../../plan/leaves-of.js';
import { sayCondition } from '../../plan/say-condition.js';
import { rulesFor } from '../../resolve/rules-for.js';
import type { FindingRule } from '../finding.js';

/**
 * What a rule comes to: the facts that columns of the row itself have to equal, whatever those are called, such as a tenant's number;
 * of any other rule its words.
 */
const sense = (see: StoreCondition): string => {
  const isOwn = see.kind === 'compares' || see.kind === 'all';
  const leaves = leavesOf(see);
  const facts = leaves.map((leaf) =>
    leaf.kind === 'compares' &&
    leaf.operator === 'equals' &&
    leaf.left.path.length === 0 &&
    leaf.right.kind === 'fact'
      ? leaf.right.fact.name
      : null,
  );
  if (!isOwn || facts.includes(null)) return sayCondition(see);
  return `caller ${[...new Set(facts)].sort().join()}`;
};

/** Whether a rule is that of the rows behind a link: by the same facts, or because it asks for the same of those rows. */
const isSame = (see: StoreCondition, link: string, behind: StoreCondition): boolean =>
  sense(see) === sense(behind) || sayCondition(see).replaceAll(`${link}.`, '') === sayCondition(behind);

export const otherRuleBehind: FindingRule = {
  code: 'other-rule-behind',
  severity: 'note',
  rule: 'A link leads from rows of one rule to rows of another: whoever sees a row may not see the one behind it.',
  advice: 'See that it is shown with unlessNull, or give both ends the same rule.',
  find: ({ api, model }) => {
    const found = new Map<string, Set<string>>();
    for (const audience of [null, ...api.audiences]) {
      const rules = rulesFor(api, audience);
      for (const [owner, { see }] of rules)
        for (const { name, kind, target } of model[owner]?.links.values() ?? []) {
          const behind = rules.get(target.name)?.see ?? null;
          if (kind === 'toMany' || see === null || behind === null || isSame(see, name, behind)) continue;
          found.set(target.name, (found.get(target.name) ?? new Set()).add(`${owner}.${name}`));
        }
    }
    return [...found].map(([place, links]) => ({
      place,
      message: `${[...links].join(', ')} ${links.size === 1 ? 'leads' : 'lead'} to it from rows of another rule.`,
    }));
  },
};
