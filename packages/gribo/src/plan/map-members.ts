import { freeze } from '../util/freeze.js';
import { mapKept, mapSame } from '../util/map-same.js';
import type { ConditionNode, ListSelection, ValueNode } from './condition.js';
import type { BodyPlan, Case, DeclaredField, DeclaredNode, ShapePlan } from './declared.js';

type Of<K extends DeclaredNode['kind']> = Extract<DeclaredNode, { kind: K }>;

/** What no situation includes: where a case has nothing, the others do not stand in for it. */
const ABSENT: DeclaredNode = freeze({ kind: 'cases', cases: freeze([]), otherwise: null });

/**
 * Makes a body with other members, nested shapes once each; the same object where every member stays as it is. Those who
 * map say what becomes of a kind of member by a method of its own.
 */
export abstract class MapMembers {
  readonly #done = new Map<ShapePlan, ShapePlan>();

  body<B extends BodyPlan>(body: B): B {
    switch (body.kind) {
      case 'shape':
        return this.#shape(body) as B;
      case 'list': {
        const shape = this.#shape(body.shape);
        return shape === body.shape ? body : freeze({ ...body, shape });
      }
      case 'envelope': {
        // The literal around the content nests the same shape.
        const [content, shape] = [this.body(body.content), this.#shape(body.shape)];
        return content === body.content && shape === body.shape ? body : freeze({ ...body, content, shape });
      }
      default:
        return body satisfies never;
    }
  }

  /** The rows behind a link, which a shape is about. */
  protected abstract selection(
    selection: ListSelection<ConditionNode>,
    shape: ShapePlan,
  ): ListSelection<ConditionNode>;

  protected abstract value(node: ValueNode): ValueNode;

  protected given(node: Of<'given'>): DeclaredNode | null {
    return this.#around(node);
  }

  protected either(node: Of<'either'>): DeclaredNode | null {
    const [inner, otherwise] = [this.node(node.node) ?? ABSENT, this.node(node.otherwise) ?? ABSENT];
    const isSame = inner === node.node && otherwise === node.otherwise;
    return isSame ? node : freeze({ ...node, node: inner, otherwise });
  }

  /** What is left out where it is null. */
  protected unlessNull(node: Of<'unlessNull'>): DeclaredNode | null {
    return this.#around(node);
  }

  /** A member with what is in it mapped; null where it is not there. */
  protected node(node: DeclaredNode): DeclaredNode | null {
    switch (node.kind) {
      case 'group': {
        const fields = this.#fields(node.fields);
        return fields === node.fields ? node : freeze({ ...node, fields });
      }
      case 'nested': {
        const shape = this.#shape(node.shape);
        return shape === node.shape ? node : freeze({ ...node, shape });
      }
      case 'nestedList':
      case 'first': {
        const [shape, selection] = [this.#shape(node.shape), this.selection(node.selection, node.shape)];
        const isSame = shape === node.shape && selection === node.selection;
        return isSame ? node : freeze({ ...node, shape, selection });
      }
      case 'cases':
        return this.#cases(node);
      case 'given':
        return this.given(node);
      case 'either':
        return this.either(node);
      case 'unlessNull':
        return this.unlessNull(node);
      case 'unsealed':
      case 'deprecated':
        return this.#around(node);
      default:
        return this.value(node satisfies ValueNode);
    }
  }

  #shape(shape: ShapePlan): ShapePlan {
    const known = this.#done.get(shape);
    if (known !== undefined) return known;
    const fields = this.#fields(shape.fields);
    const made = fields === shape.fields ? shape : freeze({ ...shape, fields });
    this.#done.set(shape, made);
    return made;
  }

  #fields(fields: readonly DeclaredField[]): readonly DeclaredField[] {
    return mapKept(fields, (field) => {
      const node = this.node(field.node);
      if (node === null) return null;
      return node === field.node ? field : freeze({ ...field, node });
    });
  }

  #cases(node: Of<'cases'>): DeclaredNode {
    const cases = mapSame(node.cases, (one): Case => {
      const inner = this.node(one.node) ?? ABSENT;
      return inner === one.node ? one : freeze({ ...one, node: inner });
    });
    const otherwise = node.otherwise && this.node(node.otherwise);
    const isSame = cases === node.cases && otherwise === node.otherwise;
    return isSame ? node : freeze({ ...node, cases, otherwise });
  }

  /** What says something about one other member. */
  #around<N extends Of<'given' | 'unsealed' | 'unlessNull' | 'deprecated'>>(node: N): N | null {
    const inner = this.node(node.node);
    if (inner === null) return null;
    return inner === node.node ? node : freeze({ ...node, node: inner });
  }
}
