import type { ConditionNode, JsonValue } from './condition.js';
import type { ConversionPlan } from './conversion.js';
import type { ColumnPlan, EntityPlan, LinkPlan } from './entity-plan.js';

/** Whether a member has to be in the body: yes, no, or a value stands in for it. */
export type Presence =
  | { readonly kind: 'required' }
  | { readonly kind: 'optional' }
  | { readonly kind: 'preset'; readonly value: JsonValue };

/** What a member of an input sets. */
export type InputNode =
  | {
      readonly kind: 'set';
      readonly column: ColumnPlan;
      /** What the value went through on its way out, the last one first: undone in this order. */
      readonly conversions: readonly ConversionPlan[];
    }
  | { readonly kind: 'inputGroup'; readonly fields: readonly InputField[] }
  | {
      readonly kind: 'nestedInput';
      readonly link: LinkPlan;
      readonly input: InputPlan;
      /** The least and the most rows behind a to-many link. */
      readonly min: number | null;
      readonly max: number | null;
    };

export interface InputField {
  readonly name: string;
  readonly presence: Presence;
  readonly node: InputNode;
  /** For which audiences it is there, and in which editions; null: always. */
  readonly when: ConditionNode | null;
}

/** A member that a merge patch does not have. */
export interface FixedMember {
  /** Its dotted name. */
  readonly member: string;
  /** In which editions there is such a member; null: in all. */
  readonly when: ConditionNode | null;
}

/** What an endpoint takes, as data. */
export interface InputPlan {
  readonly kind: 'input';
  readonly name: string;
  readonly entity: EntityPlan;
  /** What it is, in a sentence; null where nothing is said. */
  readonly about: string | null;
  readonly fields: readonly InputField[];
  /** A merge patch (RFC 7396): what is absent stays unchanged, null clears. */
  readonly amends: boolean;
  /** Members that are set once, when the row is created. */
  readonly fixed: readonly FixedMember[];
}

/** Many rows, each read by one input: a list as one that is sent, of what comes in. */
export interface InputListPlan {
  readonly kind: 'list';
  readonly shape: InputPlan;
}
