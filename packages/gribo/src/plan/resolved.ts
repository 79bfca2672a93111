import type { FactPlan, ListSelection, RowCondition, SettledValue, SortKey } from './condition.js';
import type { DeprecationNotice } from './declared.js';
import type { EntityPlan, LinkPlan } from './entity-plan.js';

/** A member in one situation. Nothing in it depends on the endpoint or the audience any more. */
export type ResolvedNode =
  | SettledValue
  | { readonly kind: 'group'; readonly fields: readonly ResolvedField[] }
  | { readonly kind: 'nested'; readonly path: readonly LinkPlan[]; readonly shape: ResolvedShape }
  | {
      readonly kind: 'nestedList';
      readonly path: readonly LinkPlan[];
      readonly link: LinkPlan;
      readonly selection: ListSelection;
      readonly shape: ResolvedShape;
    }
  | {
      readonly kind: 'first';
      readonly path: readonly LinkPlan[];
      readonly link: LinkPlan;
      readonly selection: ListSelection;
      readonly shape: ResolvedShape;
    };

export interface ResolvedField {
  readonly name: string;
  /** What the row must satisfy for the member to be there, or null where it always is. */
  readonly condition: RowCondition | null;
  /** Left out where the value is null. */
  readonly unlessNull: boolean;
  readonly deprecated: DeprecationNotice | null;
  readonly node: ResolvedNode;
}

/** A shape in one situation: what every emitter walks. */
export interface ResolvedShape {
  readonly kind: 'resolvedShape';
  readonly name: string;
  readonly entity: EntityPlan;
  /** What it is, in a sentence; null where nothing is said. */
  readonly about: string | null;
  readonly fields: readonly ResolvedField[];
}

/** One row, many, or an envelope: rows with what is known about them, inside an envelope. */
export interface ResolvedBody {
  readonly kind: 'one' | 'list' | 'envelope';
  /** What is written for each row, or for the envelope. */
  readonly shape: ResolvedShape;
  /** The shape of the rows themselves: what has to be loaded follows from it. */
  readonly content: ResolvedShape;
  /** The order in which its rows are to be loaded; empty: by their key. */
  readonly sort: readonly SortKey[];
  /** The facts about the caller that its rows are written with. */
  readonly facts: readonly FactPlan[];
  /** The names whose asking makes a difference in this situation. */
  readonly asks: readonly string[];
}
