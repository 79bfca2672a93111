import type { EndpointPlan, FilterParameter, SortParameter } from '../plan/api-plan.js';
import { looked } from '../plan/behind.js';
import type { ConditionNode, ListSelection, SortKey, ValueNode } from '../plan/condition.js';
import { contentShape, type DeclaredNode, type ShapePlan } from '../plan/declared.js';
import { isAlways } from '../plan/joined.js';
import { MapMembers } from '../plan/map-members.js';
import { freeze } from '../util/freeze.js';
import { mapSame } from '../util/map-same.js';
import type { ShownColumns, ShownRows } from './shown-columns.js';

const unlessAlways = (condition: ConditionNode): ConditionNode | null =>
  isAlways(condition) ? null : condition;

/** Puts into what an endpoint orders and filters by in which rows it is seen. */
class Showing extends MapMembers {
  readonly #shown: ShownColumns;
  readonly #endpoint: string;

  constructor(shown: ShownColumns, endpoint: string) {
    super();
    this.#shown = shown;
    this.#endpoint = endpoint;
  }

  keys<K extends SortKey<ConditionNode> | FilterParameter | SortParameter>(
    rows: ShownRows,
    keys: readonly K[],
  ): readonly K[] {
    return mapSame(keys, (key) => {
      const shown = unlessAlways(this.#shown.at(rows, key.path, key.column));
      return shown === key.shown ? key : freeze({ ...key, shown });
    });
  }

  protected override selection(
    selection: ListSelection<ConditionNode>,
    shape: ShapePlan,
  ): ListSelection<ConditionNode> {
    const sort = this.keys(this.#shown.rowsOf(shape, this.#endpoint), selection.sort);
    return sort === selection.sort ? selection : freeze({ ...selection, sort });
  }

  protected override value(node: ValueNode): ValueNode {
    return node;
  }

  protected override unlessNull(node: Extract<DeclaredNode, { kind: 'unlessNull' }>): DeclaredNode | null {
    const mapped = this.node(node.node);
    if (mapped === null) return null;
    const inner = this.#mayLack(mapped);
    return inner === node.node ? node : freeze({ ...node, node: inner });
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
