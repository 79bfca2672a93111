import type { ConversionPlan } from '../../plan/conversion.js';
import type { ValueNode } from '../../plan/declared.js';
import type { ListSelection } from '../../plan/filter.js';
import type { ResolvedField, ResolvedNode, ResolvedShape, RowCondition } from '../../plan/resolved.js';

/** What a walk over everything that a program calls is told. */
export interface FunctionVisitor {
  /** A function of the user's, and the member that it is for. */
  readonly user: (called: unknown, member: string) => void;
  readonly conversion: (conversion: ConversionPlan) => void;
}

/** Walks the functions of a shape: each shape once. */
class FunctionWalk {
  readonly #visitor: FunctionVisitor;
  readonly #seen = new Set<ResolvedShape>();

  constructor(visitor: FunctionVisitor) {
    this.#visitor = visitor;
  }

  shape(shape: ResolvedShape): void {
    if (this.#seen.has(shape)) return;
    this.#seen.add(shape);
    this.#fields(shape.fields, shape.name);
  }

  #fields(fields: readonly ResolvedField[], at: string): void {
    for (const { name, condition, node } of fields) {
      const member = `${at}.${name}`;
      if (condition !== null) this.#condition(condition, member);
      this.#node(node, member);
    }
  }

  #node(node: ResolvedNode, member: string): void {
    switch (node.kind) {
      case 'group':
        return this.#fields(node.fields, member);
      case 'nestedList':
      case 'first':
        this.#selection(node.selection, member);
        return this.shape(node.shape);
      case 'nested':
        return this.shape(node.shape);
      case 'column':
      case 'derived':
      case 'converted':
      case 'constant':
      case 'count':
        return this.#value(node, member);
      default:
        return node satisfies never;
    }
  }

  #selection({ where, sort }: ListSelection, member: string): void {
    for (const { column } of [...where, ...sort]) {
      if (column.via !== null) this.#visitor.user(column.via, member);
    }
  }

  #value(node: ValueNode, member: string): void {
    switch (node.kind) {
      case 'column':
        if (node.column.via !== null) this.#visitor.user(node.column.via, member);
        return;
      case 'derived':
        this.#visitor.user(node.compute, member);
        for (const input of node.inputs) this.#value(input, member);
        return;
      case 'converted':
        this.#visitor.conversion(node.conversion);
        return this.#value(node.input, member);
      case 'count':
        return this.#selection(node.selection, member);
      case 'constant':
        return;
      default:
        return node satisfies never;
    }
  }

  #condition(condition: RowCondition, member: string): void {
    switch (condition.kind) {
      case 'holds':
        this.#visitor.user(condition.test, member);
        for (const input of condition.inputs) this.#value(input, member);
        return;
      case 'asked':
        return;
      case 'all':
      case 'any':
        for (const part of condition.of) this.#condition(part, member);
        return;
      case 'not':
        return this.#condition(condition.of, member);
      default:
        return condition satisfies never;
    }
  }
}

/** Tells a visitor every function that writing a shape calls. */
export const walkFunctions = (shape: ResolvedShape, visitor: FunctionVisitor): void =>
  new FunctionWalk(visitor).shape(shape);
