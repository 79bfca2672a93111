import { behind } from '../plan/behind.js';
import type { ConditionNode, ValueNode } from '../plan/condition.js';
import type { DeclaredField, DeclaredNode, ShapePlan } from '../plan/declared.js';
import type { ColumnPlan, LinkPlan } from '../plan/entity-plan.js';
import { ALWAYS, allOf, notOf } from '../plan/joined.js';
import { lastPart } from '../resolve/resolver.js';
import { freeze } from '../util/freeze.js';
import { asData } from './as-data.js';

/** A way in which a column goes out with the row of a shape: behind these links, where this holds. */
export interface Way {
  readonly path: readonly LinkPlan[];
  readonly column: ColumnPlan;
  readonly when: ConditionNode;
}

/** Gathers the ways of columns, of the row itself and of those behind to-one links. */
class Ways {
  readonly found: Way[] = [];
  readonly #endpoint: string;

  constructor(endpoint: string) {
    this.#endpoint = endpoint;
  }

  fields(fields: readonly DeclaredField[], path: readonly LinkPlan[], when: ConditionNode): void {
    for (const { node } of fields) this.#node(node, path, when);
  }

  #node(node: DeclaredNode, path: readonly LinkPlan[], when: ConditionNode): void {
    switch (node.kind) {
      case 'group':
        return this.fields(node.fields, path, when);
      case 'nested':
        return this.fields(node.shape.fields, [...path, ...node.path], when);
      case 'cases':
        return this.#case(node, path, when);
      case 'given':
        return this.#node(node.node, path, allOf(when, behind(path, asData(node.condition))));
      case 'either':
        this.#node(node.node, path, allOf(when, asData(node.condition)));
        return this.#node(node.otherwise, path, allOf(when, asData(notOf(node.condition))));
      case 'unsealed':
        return this.#node(node.node, path, allOf(when, freeze({ kind: 'audience', names: node.audiences })));
      case 'unlessNull':
      case 'deprecated':
        return this.#node(node.node, path, when);
      // What is behind to-many links is of other rows.
      case 'nestedList':
      case 'first':
        return;
      default:
        return this.#value(node satisfies ValueNode, path, when);
    }
  }

  #case(
    { cases, otherwise }: Extract<DeclaredNode, { kind: 'cases' }>,
    path: readonly LinkPlan[],
    when: ConditionNode,
  ): void {
    const named = (name: string) => cases.find(({ endpoint }) => endpoint === name)?.node;
    const node = named(this.#endpoint) ?? named(lastPart(this.#endpoint)) ?? otherwise;
    if (node !== null) this.#node(node, path, when);
  }

  #value(node: ValueNode, path: readonly LinkPlan[], when: ConditionNode): void {
    switch (node.kind) {
      case 'column':
        this.found.push(freeze({ path: freeze([...path, ...node.path]), column: node.column, when }));
        return;
      case 'converted':
        // What a conversion hides on purpose is not shown.
        if (!node.conversion.lifts) this.#value(node.input, path, when);
        return;
      // What code makes of columns does not show them.
      case 'derived':
      case 'fact':
      case 'constant':
      case 'figure':
        return;
      default:
        return node satisfies never;
    }
  }
}

/** The ways in which columns go out with the row of a shape at an endpoint. */
export const waysOf = (shape: ShapePlan, endpoint: string): readonly Way[] => {
  const ways = new Ways(endpoint);
  ways.fields(shape.fields, [], ALWAYS);
  return ways.found;
};
