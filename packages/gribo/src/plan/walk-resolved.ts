import type { ListSelection, RowCondition, SettledValue } from './condition.js';
import { leavesOf } from './leaves-of.js';
import type { ResolvedField, ResolvedNode, ResolvedShape } from './resolved.js';

/** What a walk over everything that is read of rows is told, each with the member that it is for. */
export interface RowVisitor {
  readonly value?: (node: SettledValue, member: string) => void;
  /** A condition, without how it is joined with others. */
  readonly condition?: (leaf: RowCondition, member: string) => void;
  readonly selection?: (selection: ListSelection, member: string) => void;
}

/** Walks what members, conditions and selections read; each shape once. */
class RowWalk {
  readonly #visitor: RowVisitor;
  readonly #seen = new Set<ResolvedShape>();

  constructor(visitor: RowVisitor) {
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
      default:
        return this.#value(node satisfies SettledValue, member);
    }
  }

  #selection(selection: ListSelection, member: string): void {
    const { where, sort } = selection;
    this.#visitor.selection?.(selection, member);
    for (const condition of where) this.#condition(condition, member);
    for (const { path, column, shown } of sort) {
      this.#value({ kind: 'column', path, column }, member);
      if (shown !== null) this.#condition(shown, member);
    }
  }

  #value(node: SettledValue, member: string): void {
    this.#visitor.value?.(node, member);
    switch (node.kind) {
      case 'column':
      case 'fact':
      case 'constant':
        return;
      case 'derived':
        for (const input of node.inputs) this.#value(input, member);
        return;
      case 'converted':
        return this.#value(node.input, member);
      case 'figure':
        return this.#selection(node.selection, member);
      default:
        return node satisfies never;
    }
  }

  #condition(condition: RowCondition, member: string): void {
    for (const leaf of leavesOf(condition)) {
      this.#visitor.condition?.(leaf, member);
      if (leaf.kind === 'thereIs') this.#selection(leaf.selection, member);
      if (leaf.kind === 'holds') for (const input of leaf.inputs) this.#value(input, member);
      if (leaf.kind !== 'compares') continue;
      this.#value(leaf.left, member);
      if (leaf.right.kind !== 'value') this.#value(leaf.right, member);
    }
  }
}

/** Tells a visitor what is read of the rows of a shape. */
export const walkResolved = (shape: ResolvedShape, visitor: RowVisitor): void =>
  new RowWalk(visitor).shape(shape);
