import { type ChangeStep, sayCondition } from 'gribo/kit';

type Step<K extends ChangeStep['kind']> = Extract<ChangeStep, { kind: K }>;

/** A step that removes rows, its conditions in words. */
export interface RemoveTold extends Omit<Step<'remove'>, 'where'> {
  readonly where: readonly string[];
}

/** A step that looks for rows that are named, its conditions in words. */
export interface ReferenceTold extends Omit<Step<'reference'>, 'conditions'> {
  readonly conditions: readonly string[];
}

/** A step that tests rows, its conditions in words. */
export interface TestTold extends Omit<Step<'test'>, 'where' | 'conditions'> {
  readonly where: readonly string[];
  readonly conditions: readonly string[];
}

/** A step of a change as it is told: data, and conditions in words. */
export type StepTold = Step<'find' | 'insert' | 'update' | 'refuse'> | RemoveTold | ReferenceTold | TestTold;

export const stepTold = (step: ChangeStep): StepTold => {
  switch (step.kind) {
    case 'remove':
      return { ...step, where: step.where.map(sayCondition) };
    case 'reference':
      return { ...step, conditions: step.conditions.map(sayCondition) };
    case 'test':
      return { ...step, where: step.where.map(sayCondition), conditions: step.conditions.map(sayCondition) };
    case 'find':
    case 'insert':
    case 'update':
    case 'refuse':
      return step;
    default:
      return step satisfies never;
  }
};
