import type { EndpointPlan, FilterParameter, SortParameter } from '../plan/api-plan.js';
import { looked } from '../plan/behind.js';
import type { ConditionNode, ListSelection, SortKey, ValueNode } from '../plan/condition.js';
import {
  type BodyPlan,
  contentShape,
  type DeclaredField,
  type DeclaredNode,
  type ShapePlan,
} from '../plan/declared.js';
import { isAlways } from '../plan/joined.js';
import { freeze } from '../util/freeze.js';
import type { ShownColumns, ShownRows } from './shown-columns.js';

const unlessAlways = (condition: ConditionNode): ConditionNode | null =>
  isAlways(condition) ? null : condition;

/** Puts into what an endpoint orders and filters by in which rows it is seen. */
class Showing {
  readonly #shown: ShownColumns;
  readonly #endpoint: string;
  readonly #done = new Map<ShapePlan, ShapePlan>();

  constructor(shown: ShownColumns, endpoint: string) {
    this.#shown = shown;
    this.#endpoint = endpoint;
  }

  keys<K extends SortKey<ConditionNode> | FilterParameter | SortParameter>(
    rows: ShownRows,
    keys: readonly K[],
  ): readonly K[] {
    const made = keys.map((key): K => {
      const shown = unlessAlways(this.#shown.at(rows, key.path, key.column));
      return shown === key.shown ? key : freeze({ ...key, shown });
    });
    return made.every((key, i) => key === keys[i]) ? keys : freeze(made);
  }

  body(body: BodyPlan): BodyPlan {
    switch (body.kind) {
      case 'shape':
        return this.#shape(body);
      case 'list': {
        const shape = this.#shape(body.shape);
        return shape === body.shape ? body : freeze({ ...body, shape });
      }
      case 'envelope': {
        const content = this.body(body.content);
        if (content === body.content) return body;
        // The literal around it nests the same shape.
        this.#done.set(contentShape(body.content), contentShape(content));
        return freeze({ ...body, content: content as typeof body.content, shape: this.#shape(body.shape) });
      }
      default:
        return body satisfies never;
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
    const made = fields.map((field) => {
      const node = this.#node(field.node);
      return node === field.node ? field : freeze({ ...field, node });
    });
    return made.every((field, i) => field === fields[i]) ? fields : freeze(made);
  }

  #node(node: DeclaredNode): DeclaredNode {
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
        const shape = this.#shape(node.shape);
        const selection = this.#selection(node.selection, this.#shown.rowsOf(node.shape, this.#endpoint));
        return shape === node.shape && selection === node.selection
          ? node
          : freeze({ ...node, shape, selection });
      }
      case 'cases': {
        const cases = node.cases.map((one) => {
          const inner = this.#node(one.node);
          return inner === one.node ? one : freeze({ ...one, node: inner });
        });
        const otherwise = node.otherwise === null ? null : this.#node(node.otherwise);
        const isSame = otherwise === node.otherwise && cases.every((one, i) => one === node.cases[i]);
        return isSame ? node : freeze({ ...node, cases: freeze(cases), otherwise });
      }
      case 'unlessNull': {
        const inner = this.#mayLack(this.#node(node.node));
        return inner === node.node ? node : freeze({ ...node, node: inner });
      }
      case 'given':
      case 'unsealed':
      case 'deprecated': {
        const inner = this.#node(node.node);
        return inner === node.node ? node : freeze({ ...node, node: inner });
      }
      default:
        return node satisfies ValueNode;
    }
  }

  /** A member that is left out where it is null: the row it is of may be hidden. */
  #mayLack(node: DeclaredNode): DeclaredNode {
    if (node.kind === 'converted') {
      // What is made of a value is a value.
      const input = this.#mayLack(node.input) as ValueNode;
      return input === node.input ? node : freeze({ ...node, input });
    }
    if (!('path' in node) || !node.path.some((link) => this.#shown.isRuled(link))) return node;
    return freeze({ ...node, path: looked(node.path) });
  }

  #selection(selection: ListSelection<ConditionNode>, rows: ShownRows): ListSelection<ConditionNode> {
    const sort = this.keys(rows, selection.sort);
    return sort === selection.sort ? selection : freeze({ ...selection, sort });
  }
}

/**
 * An endpoint whose filters and orders, those of nested rows too, look at a column only in rows where the caller sees it;
 * the same endpoint where nothing is hidden.
 */
export const showEndpoint = (endpoint: EndpointPlan, shown: ShownColumns): EndpointPlan => {
  const { returns } = endpoint;
  if (returns === null) return endpoint;
  const showing = new Showing(shown, endpoint.name);
  const rows = shown.rowsOf(contentShape(returns), endpoint.name);
  const filters = showing.keys(rows, endpoint.filters);
  const sort = showing.keys(rows, endpoint.sort);
  const order = showing.keys(rows, endpoint.order);
  const body = showing.body(returns);
  const isSame =
    filters === endpoint.filters && sort === endpoint.sort && order === endpoint.order && body === returns;
  return isSame ? endpoint : freeze({ ...endpoint, filters, sort, order, returns: body });
};
