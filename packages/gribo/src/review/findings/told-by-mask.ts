import type { FindingRule } from '../finding.js';

export const toldByMask: FindingRule = {
  code: 'told-by-mask',
  severity: 'note',
  rule: 'A sealed column goes out masked: what the mask leaves is for everybody.',
  advice: 'See that so much may be known, or unseal it for those who need it.',
  find: ({ flows }) => {
    const found = new Map<string, Set<string>>();
    for (const { entity, column, sealed, lifted, endpoint } of flows) {
      if (!lifted || sealed === null) continue;
      const place = `${entity}.${column}`;
      found.set(place, (found.get(place) ?? new Set()).add(endpoint));
    }
    return [...found].map(([place, endpoints]) => ({
      place,
      message: `It is sealed, and goes out masked at ${[...endpoints].join(', ')}.`,
    }));
  },
};
