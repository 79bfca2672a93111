import type { ConditionNode, ListSelection, ValueNode } from '../plan/condition.js';
import type { BodyPlan, DeclaredNode } from '../plan/declared.js';
import { isAlways, isNever } from '../plan/joined.js';
import { MapMembers } from '../plan/map-members.js';
import { freeze } from '../util/freeze.js';
import { conditionIn, selectionIn, valueIn } from './condition-in.js';
import type { Here } from './here.js';

/** Settles what of a body is about editions. */
class BodyIn extends MapMembers {
  readonly #here: Here;

  constructor(here: Here) {
    super();
    this.#here = here;
  }

  protected override selection(selection: ListSelection<ConditionNode>): ListSelection<ConditionNode> {
    return selectionIn(selection, this.#here);
  }

  protected override value(node: ValueNode): ValueNode {
    return valueIn(node, this.#here);
  }

  protected override either(node: Extract<DeclaredNode, { kind: 'either' }>): DeclaredNode | null {
    return this.node(isNever(conditionIn(node.condition, this.#here)) ? node.otherwise : node.node);
  }

  protected override given(node: Extract<DeclaredNode, { kind: 'given' }>): DeclaredNode | null {
    const condition = conditionIn(node.condition, this.#here);
    // What held or did not before any edition was looked at is for others to settle.
    if (condition === node.condition) return super.given(node);
    if (isNever(condition)) return null;
    const inner = this.node(node.node);
    return inner === null || isAlways(condition) ? inner : freeze({ ...node, condition, node: inner });
  }
}

/**
 * A body as it is in one edition: an ordinary one, without a word about editions.
 *
 * @returns the body itself where nothing of it depends on the edition
 */
export const bodyIn = <B extends BodyPlan>(body: B, here: Here): B => new BodyIn(here).body(body);
