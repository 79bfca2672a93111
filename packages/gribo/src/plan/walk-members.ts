import {
  type BodyPlan,
  type ConditionNode,
  contentShape,
  type DeclaredField,
  type DeclaredNode,
  type ShapePlan,
} from './declared.js';

/** What a walk over the members of a body is told. */
export interface MemberVisitor {
  /** An `at` names this endpoint. */
  readonly endpoint?: (name: string, at: string) => void;
  /** A condition or `unseal` names these audiences. */
  readonly audiences?: (names: readonly string[], at: string) => void;
  /** A condition asks about this name. */
  readonly asked?: (name: string, at: string) => void;
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
      case 'derived':
      case 'converted':
      case 'constant':
      case 'count':
        return;
      case 'group':
        return this.#fields(node.fields, at);
      case 'nested':
      case 'nestedList':
      case 'first':
        return this.shape(node.shape);
      case 'cases':
        for (const { endpoint, node: inner } of node.cases) {
          this.#visitor.endpoint?.(endpoint, at);
          this.#node(inner, at);
        }
        if (node.otherwise !== null) this.#node(node.otherwise, at);
        return;
      case 'given':
        this.#condition(node.condition, at);
        return this.#node(node.node, at);
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

  #condition(condition: ConditionNode, at: string): void {
    switch (condition.kind) {
      case 'audience':
        return this.#visitor.audiences?.(condition.names, at);
      case 'asked':
        return this.#visitor.asked?.(condition.name, at);
      case 'holds':
        return;
      case 'all':
      case 'any':
        for (const part of condition.of) this.#condition(part, at);
        return;
      case 'not':
        return this.#condition(condition.of, at);
      default:
        return condition satisfies never;
    }
  }
}

const walked = (body: BodyPlan, visitor: MemberVisitor): MemberWalk => {
  const walk = new MemberWalk(visitor);
  walk.shape(contentShape(body));
  if (body.kind === 'envelope') walk.shape(body.shape);
  return walk;
};

/** Tells a visitor what the members of a body depend on. */
export const walkMembers = (body: BodyPlan, visitor: MemberVisitor): void => {
  walked(body, visitor);
};

/** Every shape that a body can ever have in it, each once. */
export const walkShapes = (body: BodyPlan): readonly ShapePlan[] => [...walked(body, {}).shapes];
