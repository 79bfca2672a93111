import type { FindingRule } from '../finding.js';
import type { Flow } from '../lineage/lineage.js';

const SHOWN: readonly Flow['kind'][] = ['sent', 'converted', 'computed'];

export const toldByCondition: FindingRule = {
  code: 'told-by-condition',
  severity: 'note',
  rule: 'A condition compares a column that callers are not sent: by what is there, and by which rows there are, they are told what it tests.',
  advice: 'See that they may know that much.',
  find: ({ flows }) => {
    const shown = new Set(
      flows
        .filter(({ kind }) => SHOWN.includes(kind))
        .flatMap(({ entity, column, audiences }) => audiences.map((to) => `${entity}.${column} ${to}`)),
    );
    const found = new Map<string, Set<string>>();
    for (const { kind, entity, column, member, endpoint, audiences } of flows) {
      if (kind !== 'decides' && kind !== 'rules') continue;
      const place = `${entity}.${column}`;
      if (audiences.every((to) => shown.has(`${place} ${to}`))) continue;
      const what = kind === 'rules' ? 'which rows there are' : `${endpoint}: ${member}`;
      found.set(place, (found.get(place) ?? new Set()).add(what));
    }
    return [...found].map(([place, what]) => ({
      place,
      message: `It decides ${[...what].slice(0, 3).join(', ')}${what.size > 3 ? ` and ${what.size - 3} more` : ''}, for callers who are not sent it.`,
    }));
  },
};
