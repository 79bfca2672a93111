import type { LinkPlan } from './entity-plan.js';

const valueText = (value: unknown): string | undefined =>
  JSON.stringify(value, (_name, part: unknown) => (typeof part === 'bigint' ? `${part}n` : part));

/** Names stand for what they name; functions are left out of JSON anyway. */
const plain = (name: string, part: unknown): unknown => {
  // As text: what a JSON value calls its members says nothing of the condition.
  if (name === 'value') return valueText(part);
  if (name === 'path') return (part as readonly LinkPlan[]).map((link) => link.name);
  return name === 'column' || name === 'link' || name === 'fact' ? (part as LinkPlan).name : part;
};

/** The same text for conditions, and lists of them, that are the same. */
export const conditionText = (conditions: unknown): string => JSON.stringify(conditions, plain);
