import type { InputPlan } from '../../plan/input-plan.js';
import { reader } from '../../read/reader.js';
import { freeze } from '../../util/freeze.js';
import { isPlainLiteral } from '../../util/is-plain-literal.js';
import type { Standard, StandardIssue } from '../types/standard-types.js';

const INDEX = /^(?:0|[1-9]\d*)$/;

/** The way that a JSON Pointer (RFC 6901) points: names, and places in arrays as numbers. */
const pathOf = (pointer: string): readonly PropertyKey[] =>
  pointer
    .split('/')
    .slice(1)
    .map((part) => part.replaceAll('~1', '/').replaceAll('~0', '~'))
    .map((part) => (INDEX.test(part) ? Number(part) : part));

/** No form has more levels, and none deeper is read: a body of a hundred thousand must not be walked. */
const LEVELS = 32;

/** A value as JSON would have it: forms hold undefined where nothing was entered, and JSON has no such member. */
const asSent = (value: unknown, levels = LEVELS): unknown => {
  if (levels === 0) return value;
  if (Array.isArray(value)) return value.map((item) => asSent(item, levels - 1));
  if (!isPlainLiteral(value)) return value;
  const entries = Object.entries(value).filter(([, member]) => member !== undefined);
  return Object.fromEntries(entries.map(([name, member]) => [name, asSent(member, levels - 1)]));
};

/** What an input is for those who take schemas by the Standard Schema specification, version 1. */
export const standardOf = (plan: InputPlan): Standard<never, never> =>
  freeze({
    version: 1,
    vendor: 'gribo',
    validate: (value: unknown) => {
      const read = reader({ plan }).object(asSent(value));
      // What is read is of the input's type: that is the law of readers.
      if (read.ok) return { value: read.value as never };
      const issues = read.issues.map(
        ({ message, pointer }): StandardIssue => ({ message, path: pathOf(pointer) }),
      );
      return { issues };
    },
  });
