import type { FindingRule } from '../finding.js';

export const forms: FindingRule = {
  code: 'forms',
  severity: 'warning',
  rule: 'Forms are read, and callers are told apart.',
  advice:
    'Where cookies tell who a caller is, any page can send a form in its reader’s name: leave otherSites as it is, and set cookies with SameSite.',
  find: ({ api, serving }) => {
    const reading = api.endpoints.filter(({ takes }) => takes !== null);
    if (serving.audience !== true || serving.formats?.includes('form') !== true || reading.length === 0)
      return [];
    const names = reading.map(({ name }) => name).join(', ');
    return [
      {
        place: 'formats',
        message: `Forms are read at ${names}, and browsers send them without asking first.`,
      },
    ];
  },
};
