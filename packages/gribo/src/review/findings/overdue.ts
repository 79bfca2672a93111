import type { DeprecationNotice } from '../../plan/declared.js';
import { isOver } from '../../plan/is-over.js';
import { matrixOf } from '../../resolve/matrix.js';
import type { FindingRule, Found, ReviewContext } from '../finding.js';
import { visitFields } from '../visit-fields.js';

/** What is still there after the day that was announced as its last. */
const find = ({ api, today }: ReviewContext): readonly Found[] => {
  const found = new Map<string, Found>();
  const add = (place: string, what: string, notice: DeprecationNotice | null | undefined): void => {
    if (isOver(notice, today))
      found.set(place, { place, message: `${what} was to be gone after ${notice?.sunset}.` });
  };
  for (const { name, deprecated } of api.endpoints) add(name, 'The endpoint', deprecated);
  for (const { endpoint, body } of matrixOf(api)) {
    visitFields(body.content.fields, '', ({ deprecated }, path) =>
      add(`${endpoint.name}/${path}`, 'The member', deprecated),
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
