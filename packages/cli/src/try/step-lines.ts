import { type ChangeFlow, type ChangePlan, type ChangeStep, sayCondition } from 'gribo/kit';
import { counted } from '../screen/counted.js';

const listed = (names: readonly string[]): string => names.join(', ');

/** `portCallId ← 1.id`: which columns are taken over from the rows of which step. */
const flowWords = ({ columns, from }: Omit<ChangeFlow, 'rows'>): string => {
  const source = from.columns.map((name) => `${from.step + 1}.${name}`);
  return `${listed(columns)} ← ${listed(source)}`;
};

const partsOf = (step: ChangeStep): readonly string[] => {
  switch (step.kind) {
    case 'find':
      return [
        ...(Object.keys(step.values).length === 0
          ? []
          : [
              `by ${listed(Object.keys(step.values))}, as ${step.flows.length === 0 ? 'the path' : 'the body'} says`,
            ]),
        ...step.flows.map((flow) => `by ${flowWords(flow)}`),
      ];
    case 'insert':
      return [counted(step.rows.length, 'row'), ...step.flows.map(flowWords)];
    case 'update':
      return [
        `the row of ${step.row + 1}`,
        counted(Object.keys(step.set).length + step.counts.length, 'column'),
        ...step.flows.map(flowWords),
      ];
    case 'remove':
      return [`by ${flowWords(step.flow)}`, ...step.where.map(sayCondition)];
    case 'reference':
      return [`${listed(step.columns)} as ${step.namedBy} names them`, ...step.conditions.map(sayCondition)];
    case 'test':
      return [`by ${flowWords(step.flow)}`, ...step.conditions.map(sayCondition)];
    case 'refuse':
      return ['there is no such row'];
    default:
      return step satisfies never;
  }
};

const onlyWords = ({ only }: ChangeStep): string => {
  if (only === null) return '';
  return `  (where ${only.step + 1} found ${only.found ? 'one' : 'none'})`;
};

/** The steps of a change, a line for each: what is done, with which rows, and which keys flow where. */
export const stepLines = ({ steps }: ChangePlan): readonly string[] => {
  const widest = Math.max(...steps.map(({ entity }) => entity.length));
  return steps.map((step, i) => {
    const parts = partsOf(step);
    const number = String(i + 1).padStart(3);
    return `${number}  ${step.kind.padEnd(6)}  ${step.entity.padEnd(widest)}  ${parts.join('; ')}${onlyWords(step)}`;
  });
};
