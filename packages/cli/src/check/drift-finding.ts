import type { Drift } from '@gribo/sql';
import type { ReviewFinding } from 'gribo';
import type { FindingRule } from 'gribo/kit';

/** Where the model and the database do not agree: found by the store. */
export const DRIFT: Omit<FindingRule, 'find'> = {
  code: 'drift',
  severity: 'error',
  rule: 'The model and the database do not agree.',
  advice: 'Make the model and the database agree.',
};

export const driftFinding = ({ path, message }: Drift): ReviewFinding => ({
  code: DRIFT.code,
  severity: DRIFT.severity,
  advice: DRIFT.advice,
  place: path,
  message,
});
