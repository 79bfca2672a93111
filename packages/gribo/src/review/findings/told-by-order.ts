import type { FindingRule } from '../finding.js';
import type { Flow } from '../lineage/lineage.js';

const named = ({ entity, column }: Flow): string => `${entity}.${column}`;

export const toldByOrder: FindingRule = {
  code: 'told-by-order',
  severity: 'note',
  rule: 'Rows are in the order of a column that goes out shortened or rounded only: the order tells more of it.',
  advice: 'Order by what is sent, or see that the order may be known.',
  find: ({ flows }) => {
    const whole = new Set(flows.filter(({ kind }) => kind === 'sent').map(named));
    const shortened = new Set(flows.filter(({ kind }) => kind === 'converted').map(named));
    const found = new Map<string, Set<string>>();
    for (const flow of flows) {
      const place = named(flow);
      if (flow.kind !== 'orders' || whole.has(place) || !shortened.has(place)) continue;
      found.set(place, (found.get(place) ?? new Set()).add(flow.endpoint));
    }
    return [...found].map(([place, endpoints]) => ({
      place,
      message: `${[...endpoints].join(', ')} ${endpoints.size === 1 ? 'has' : 'have'} rows in its order, and nothing sends it as it is.`,
    }));
  },
};
