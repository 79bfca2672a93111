import { ConflictError } from '../errors/conflict-error.js';
import { RuleError } from '../errors/rule-error.js';
import type { StoreCondition } from '../plan/condition.js';
import { setMember } from '../util/set-member.js';
import type { ChangePlan, ChangeStep, Flow, ReferenceStep, Refusal, Values } from './change-plan.js';
import { valuesText } from './values-text.js';

/** What a store is asked to do next: every value is known by now. */
export type Work =
  | {
      readonly kind: 'find';
      readonly entity: string;
      readonly by: Values;
      readonly needs: readonly string[];
      /** Whether it is the row that the change is about, to which guards apply. */
      readonly isRoot: boolean;
    }
  | {
      readonly kind: 'insert';
      readonly entity: string;
      readonly rows: readonly Values[];
      readonly needs: readonly string[];
    }
  | { readonly kind: 'update'; readonly entity: string; readonly row: Values; readonly set: Values }
  | {
      readonly kind: 'remove';
      readonly entity: string;
      readonly by: Values;
      readonly where: readonly StoreCondition[];
    }
  /** Asks which of these rows there are that satisfy all conditions: all of them should be. */
  | {
      readonly kind: 'reference';
      readonly entity: string;
      readonly columns: readonly string[];
      readonly among: readonly Values[];
      readonly conditions: readonly StoreCondition[];
    }
  /** Asks for rows among these that do not satisfy all conditions: there must be none. */
  | {
      readonly kind: 'test';
      readonly entity: string;
      readonly columns: readonly string[];
      readonly among: readonly Values[];
      readonly where: readonly StoreCondition[];
      readonly conditions: readonly StoreCondition[];
    };

/** The rows that came of it: made, or found; of a change or a removal none are asked for. */
export type WorkRows = readonly Values[];

/** What has come of the steps so far; null for a step that was left out. */
type Results = (WorkRows | null)[];

/** Values, and over them those that flow to a row. */
const withFlows = (values: Values, flows: readonly Flow[], results: Results, row: number): Values => {
  const all = { ...values };
  for (const { columns, from, rows } of flows) {
    const place = rows[row] ?? null;
    const source = place === null ? undefined : results[from.step]?.[place];
    // A step that was left out gives nothing: another one is taken in its place.
    if (source === undefined) continue;
    for (let i = 0; i < columns.length; i++) {
      const name = columns[i] ?? '';
      setMember(all, name, source[from.columns[i] ?? name]);
    }
  }
  return all;
};

const isTaken = ({ only }: ChangeStep, results: Results): boolean => {
  if (only === null) return true;
  const found = results[only.step];
  return found !== null && found !== undefined && found.length > 0 === only.found;
};

/** Null leads nowhere. */
const leadsNowhere = (values: Values): boolean =>
  Object.values(values).some((value) => value === null || value === undefined);

/**
 * Runs a change plan: hands out one piece of work after the other, with what has come of those before.
 * Whoever runs it does them in one transaction, and gives the rows back.
 *
 * @returns the row that the change is about, so far as it is known; null where there is none
 * @throws {RuleError} `RULE` where a row is or becomes one that the caller may not change; {ConflictError} where it names one
 * that the caller does not see
 * @example
 * const run = runChange(planChange(db, { operation: 'create', entity: 'quay', change: { name: 'East' } }));
 */
export function* runChange(plan: ChangePlan): Generator<Work, Values | null, WorkRows> {
  const results: Results = [];
  for (const [i, step] of plan.steps.entries()) {
    results[i] = isTaken(step, results) ? yield* runStep(step, results, i === plan.root, plan) : null;
    if (i === plan.root && results[i]?.length === 0) return null;
  }
  return results[plan.root]?.[0] ?? null;
}

const oneMore = (value: unknown): unknown =>
  typeof value === 'bigint' ? value + 1n : Number(value ?? 0) + 1;

/** The rows that a change makes, as far as is known by now, as texts of these columns. */
const madeIn = (
  { steps }: ChangePlan,
  entity: string,
  columns: readonly string[],
  results: Results,
): Set<string> => {
  const made = new Set<string>();
  for (const [i, step] of steps.entries()) {
    if (step.kind !== 'insert' || step.entity !== entity || !isTaken(step, results)) continue;
    for (const row of results[i] ?? step.rows)
      made.add(valuesText(Object.fromEntries(columns.map((name) => [name, row[name]]))));
  }
  return made;
};

/** The rows that a step names, each once, but for those that the change makes. */
const namedBy = (step: ReferenceStep, plan: ChangePlan, results: Results): readonly Values[] => {
  const { rows, flows, columns, entity } = step;
  const named = new Map<string, Values>();
  for (const [n, row] of rows.entries()) {
    const all = withFlows(row, flows, results, n);
    const values = Object.fromEntries(columns.map((name) => [name, all[name]]));
    if (!leadsNowhere(values)) named.set(valuesText(values), values);
  }
  for (const text of named.size === 0 ? [] : madeIn(plan, entity, columns, results)) named.delete(text);
  return [...named.values()];
};

const refused = (entity: string, refusal: Refusal): Error =>
  refusal.kind === 'rule'
    ? new RuleError(entity, refusal.about)
    : new ConflictError(refusal.kind, entity, refusal.columns);

function* runStep(
  step: ChangeStep,
  results: Results,
  isRoot: boolean,
  plan: ChangePlan,
): Generator<Work, WorkRows, WorkRows> {
  const { entity } = step;
  switch (step.kind) {
    case 'find': {
      const by = withFlows(step.values, step.flows, results, 0);
      return leadsNowhere(by) ? [] : yield { kind: 'find', entity, by, needs: step.needs, isRoot };
    }
    case 'insert': {
      const rows = step.rows.map((row, n) => withFlows(row, step.flows, results, n));
      return yield { kind: 'insert', entity, rows, needs: step.needs };
    }
    case 'update': {
      const row = results[step.row]?.[0] ?? {};
      const counted = step.counts.map((name) => [name, oneMore(row[name])] as const);
      const set = { ...withFlows(step.set, step.flows, results, 0), ...Object.fromEntries(counted) };
      if (Object.keys(set).length > 0) yield { kind: 'update', entity, row, set };
      return [{ ...row, ...set }];
    }
    case 'remove': {
      const by = withFlows({}, [step.flow], results, 0);
      if (!leadsNowhere(by)) yield { kind: 'remove', entity, by, where: step.where };
      return [];
    }
    case 'reference': {
      const among = namedBy(step, plan, results);
      if (among.length === 0) return [];
      const { columns, conditions } = step;
      const there = yield { kind: 'reference', entity, columns, among, conditions };
      if (there.length < among.length) throw refused(step.namedBy, step.refusal);
      return [];
    }
    case 'test': {
      const { columns, from } = step.flow;
      const rows = results[from.step] ?? [];
      const among = rows
        .map((row) => Object.fromEntries(columns.map((name, i) => [name, row[from.columns[i] ?? name]])))
        .filter((values) => !leadsNowhere(values));
      if (among.length === 0) return [];
      const { where, conditions } = step;
      const broken = yield { kind: 'test', entity, columns, among, where, conditions };
      if (broken.length > 0) throw refused(entity, step.refusal);
      return [];
    }
    case 'refuse':
      throw refused(entity, step.refusal);
    default:
      return step satisfies never;
  }
}
