import type { ApiPlan, EndpointPlan } from '../plan/api-plan.js';
import { audiencesAt } from '../plan/audiences-at.js';
import { behind } from '../plan/behind.js';
import type { ConditionNode, SettledValue } from '../plan/condition.js';
import { contentShape } from '../plan/declared.js';
import type { EntityPlan, LinkPlan } from '../plan/entity-plan.js';
import { allOf } from '../plan/joined.js';
import type { ResolvedField, ResolvedNode, ResolvedShape } from '../plan/resolved.js';
import { resolveBody } from '../resolve/resolve-body.js';
import { rulesFor, type SettledRules } from '../resolve/rules-for.js';
import { implies } from './implies.js';

/** A member that always shows something of a row that a rule may hide. */
export interface MissingRow {
  readonly member: string;
  /** The link that leads to the row, and its entity. */
  readonly link: string;
  readonly entity: string;
}

/** Finds the members of a body that could not say that a row is missing. */
class MissingRows {
  readonly found = new Map<string, MissingRow>();
  readonly #rules: SettledRules;
  readonly #seen = new Set<ResolvedShape>();

  constructor(rules: SettledRules) {
    this.#rules = rules;
  }

  shape(shape: ResolvedShape): void {
    if (this.#seen.has(shape)) return;
    this.#seen.add(shape);
    this.#fields(shape.fields, shape.name, this.#ruleOf(shape.entity));
  }

  #ruleOf({ name }: EntityPlan): ConditionNode {
    return this.#rules.get(name)?.see ?? allOf();
  }

  #fields(fields: readonly ResolvedField[], at: string, known: ConditionNode): void {
    for (const { name, node, condition, unlessNull } of fields) {
      const inside = condition === null ? known : allOf(known, condition);
      this.#node(node, `${at}.${name}`, inside, unlessNull);
    }
  }

  #node(node: ResolvedNode, at: string, known: ConditionNode, mayLack: boolean): void {
    switch (node.kind) {
      case 'group':
        return this.#fields(node.fields, at, known);
      case 'nested':
      case 'nestedList':
      case 'first':
        this.#way(node.path, at, known, mayLack);
        return this.shape(node.shape);
      default:
        return this.#value(node satisfies SettledValue, at, known, mayLack);
    }
  }

  #value(node: SettledValue, at: string, known: ConditionNode, mayLack: boolean): void {
    switch (node.kind) {
      case 'column':
      case 'figure':
        return this.#way(node.path, at, known, mayLack);
      case 'converted':
        return this.#value(node.input, at, known, mayLack);
      case 'derived':
        // What code is given is never null where its type does not say so.
        this.#way(node.guard, at, known, false);
        for (const input of node.inputs) this.#value(input, at, known, false);
        return;
      case 'fact':
      case 'constant':
        return;
      default:
        return node satisfies never;
    }
  }

  #way(path: readonly LinkPlan[], at: string, known: ConditionNode, mayLack: boolean): void {
    let sure = known;
    for (const [i, link] of path.entries()) {
      const see = this.#rules.get(link.target.name)?.see ?? null;
      if (see === null) continue;
      const there = behind(path.slice(0, i + 1), see);
      if (!link.nullable && !mayLack && !implies(sure, there))
        this.found.set(`${at} ${link.name}`, { member: at, link: link.name, entity: link.target.name });
      sure = allOf(sure, there);
    }
  }
}

/** The members of an endpoint's body that could not say that a row is missing which a rule hides. */
export const missingAt = (
  endpoint: EndpointPlan,
  api: Pick<ApiPlan, 'audiences' | 'rules'>,
): readonly MissingRow[] => {
  const { returns, name } = endpoint;
  if (returns === null || api.rules.length === 0) return [];
  const found = audiencesAt(endpoint, api).flatMap((audience) => {
    const missing = new MissingRows(rulesFor(api, audience));
    missing.shape(resolveBody(contentShape(returns), { endpoint: name, audience }).body.shape);
    return [...missing.found];
  });
  return [...new Map(found).values()];
};
