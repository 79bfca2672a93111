import { matrixOf } from '../../resolve/matrix.js';
import type { FindingRule, Found, ReviewContext } from '../finding.js';
import { visitFields } from '../visit-fields.js';

const overdueAt = (place: string, what: string, sunset: string): Found => ({
  place,
  message: `${what} was to be gone after ${sunset}.`,
});

/** What is still there after the day that was announced as its last. */
const find = ({ api, today }: ReviewContext): readonly Found[] => {
  const found = new Map<string, Found>();
  const add = (place: string, what: string, sunset: string | null | undefined): void => {
    if (sunset != null && sunset < today) found.set(place, overdueAt(place, what, sunset));
  };
  for (const { name, deprecated } of api.endpoints) add(name, 'The endpoint', deprecated?.sunset);
  for (const { endpoint, body } of matrixOf(api)) {
    visitFields(body.content.fields, '', ({ deprecated }, path) =>
      add(`${endpoint.name}/${path}`, 'The member', deprecated?.sunset),
    );
  }
  return [...found.values()];
};

export const overdue: FindingRule = {
  code: 'overdue',
  severity: 'warning',
  rule: 'Something is still there after its last day.',
  advice: 'Remove it, or give it a later day.',
  find: find,
};
