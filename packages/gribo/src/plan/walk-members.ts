import type { ConditionNode, FactPlan, ListSelection, ValueNode } from './condition.js';
import {
  type BodyPlan,
  contentShape,
  type DeclaredField,
  type DeclaredNode,
  type ShapePlan,
} from './declared.js';
import { leavesOf } from './leaves-of.js';

/** What a walk over the members of a body is told. */
export interface MemberVisitor {
  /** An `at` names this endpoint. */
  readonly endpoint?: (name: string, at: string) => void;
  /** A condition or `unseal` names these audiences. */
  readonly audiences?: (names: readonly string[], at: string) => void;
  /** A condition asks about this name. */
  readonly asked?: (name: string, at: string) => void;
  /** A member or a condition uses this fact about the caller. */
  readonly fact?: (fact: FactPlan, at: string) => void;
}

/** Walks every member that a body can ever have, nested shapes once each. */
class MemberWalk {
  readonly #visitor: MemberVisitor;
  readonly #seen = new Set<ShapePlan>();

  constructor(visitor: MemberVisitor) {
    this.#visitor = visitor;
  }

  get shapes(): ReadonlySet<ShapePlan> {
    return this.#seen;
  }

  shape(shape: ShapePlan): void {
    if (this.#seen.has(shape)) return;
    this.#seen.add(shape);
    this.#fields(shape.fields, shape.name);
  }

  #fields(fields: readonly DeclaredField[], at: string): void {
    for (const { name, node } of fields) this.#node(node, `${at}.${name}`);
  }

  #node(node: DeclaredNode, at: string): void {
    switch (node.kind) {
      case 'column':
      case 'fact':
      case 'derived':
      case 'converted':
      case 'constant':
      case 'figure':
        return this.#value(node, at);
      case 'group':
        return this.#fields(node.fields, at);
      case 'nested':
        return this.shape(node.shape);
      case 'nestedList':
      case 'first':
        this.#selection(node.selection, at);
        return this.shape(node.shape);
      case 'cases':
        for (const { endpoint, node: inner } of node.cases) {
          this.#visitor.endpoint?.(endpoint, at);
          this.#node(inner, at);
        }
        if (node.otherwise !== null) this.#node(node.otherwise, at);
        return;
      case 'given':
        this.condition(node.condition, at);
        return this.#node(node.node, at);
      case 'either':
        this.#node(node.node, at);
        return this.#node(node.otherwise, at);
      case 'unsealed':
        this.#visitor.audiences?.(node.audiences, at);
        return this.#node(node.node, at);
      case 'unlessNull':
      case 'deprecated':
        return this.#node(node.node, at);
      default:
        return node satisfies never;
    }
  }

  condition(condition: ConditionNode, at: string): void {
    for (const leaf of leavesOf(condition)) {
      if (leaf.kind === 'audience') this.#visitor.audiences?.(leaf.names, at);
      if (leaf.kind === 'asked') this.#visitor.asked?.(leaf.name, at);
      if (leaf.kind === 'thereIs') this.#selection(leaf.selection, at);
      if (leaf.kind === 'holds') for (const input of leaf.inputs) this.#value(input, at);
      if (leaf.kind === 'compares' && leaf.right.kind === 'fact') this.#visitor.fact?.(leaf.right.fact, at);
    }
  }

  #selection({ where, sort }: ListSelection<ConditionNode>, at: string): void {
    for (const condition of where) this.condition(condition, at);
    for (const { shown } of sort) if (shown !== null) this.condition(shown, at);
  }

  #value(node: ValueNode, at: string): void {
    switch (node.kind) {
      case 'column':
      case 'constant':
        return;
      case 'fact':
        return this.#visitor.fact?.(node.fact, at);
      case 'derived':
        for (const input of node.inputs) this.#value(input, at);
        return;
      case 'converted':
        return this.#value(node.input, at);
      case 'figure':
        return this.#selection(node.selection, at);
      default:
        return node satisfies never;
    }
  }
}

const walked = (body: BodyPlan, visitor: MemberVisitor): MemberWalk => {
  const walk = new MemberWalk(visitor);
  walk.shape(contentShape(body));
  if (body.kind === 'envelope') walk.shape(body.shape);
  return walk;
};

/** Tells a visitor what a condition depends on. */
export const walkCondition = (condition: ConditionNode, at: string, visitor: MemberVisitor): void =>
  new MemberWalk(visitor).condition(condition, at);

/** Tells a visitor what the members of a body depend on. */
export const walkMembers = (body: BodyPlan, visitor: MemberVisitor): void => {
  walked(body, visitor);
};

/** Every shape that a body can ever have in it, each once. */
export const walkShapes = (body: BodyPlan): readonly ShapePlan[] => [...walked(body, {}).shapes];
