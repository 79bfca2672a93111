import { columnsRead } from '../../plan/columns-read.js';
import { walkResolved } from '../../plan/walk-resolved.js';
import { cellsAt } from '../../resolve/matrix.js';
import type { FindingRule } from '../finding.js';

export const toldByCode: FindingRule = {
  code: 'told-by-code',
  severity: 'note',
  rule: 'A condition that is code looks at a sealed column: by whether the member is there, callers are told what it tests.',
  advice: 'See that they may know that much, or compare a column that is not sealed.',
  find: ({ api }) => {
    const found = new Map<string, string>();
    for (const endpoint of api.endpoints)
      for (const { open } of cellsAt(api, endpoint))
        walkResolved(open.shape, {
          condition: (leaf, member) => {
            if (leaf.kind !== 'holds') return;
            for (const { name, sealed } of leaf.inputs.flatMap(columnsRead))
              if (sealed !== null)
                found.set(member, `Its condition tests ${name}, which is sealed (${sealed}).`);
          },
        });
    return [...found].map(([place, message]) => ({ place, message }));
  },
};
