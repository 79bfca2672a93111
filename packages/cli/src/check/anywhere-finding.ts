import type { ReviewFinding } from 'gribo';
import type { FindingRule } from 'gribo/kit';
import type { GriboConfig } from '../config/config.js';

/** A handler that loads rows beyond its endpoint. */
export const ANYWHERE: Omit<FindingRule, 'find'> = {
  code: 'beyond-endpoint',
  severity: 'note',
  rule: 'A handler loads rows of any parent, whatever the query looks for.',
  advice: 'See that it has to; row rules hold all the same.',
};

/** How a handler says so. */
const SAYS = /\banywhere\b/;

/** Handlers that go beyond their endpoints, as their own text says. */
export const anywhereFindings = ({ handlers = {} }: GriboConfig): readonly ReviewFinding[] => {
  const { code, severity, advice } = ANYWHERE;
  return Object.entries(handlers)
    .filter(([, handler]) => handler !== undefined && SAYS.test(Function.prototype.toString.call(handler)))
    .map(([place]) => ({
      code,
      severity,
      advice,
      place,
      message: 'Its handler says load.anywhere: rows of any parent, whatever the query looks for.',
    }));
};
