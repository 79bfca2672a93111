import type { BodyPlan, DeprecationNotice } from './declared.js';
import type { ColumnPlan, EntityPlan, LinkPlan } from './entity-plan.js';
import type { FilterOperator } from './filter.js';
import type { InputPlan } from './input-plan.js';

/** What an endpoint of a collection does; null for an endpoint of its own. */
export type Operation = 'list' | 'read' | 'create' | 'replace' | 'amend' | 'remove';

/** A query parameter that compares a column: `?flag=QM`. */
export interface FilterParameter {
  readonly name: string;
  readonly column: ColumnPlan;
  readonly operator: FilterOperator;
}

/** The parent of a child collection: the path's parameter holds its key. */
export interface ParentPlan {
  readonly parameter: string;
  readonly link: LinkPlan;
}

/** One endpoint of an API. */
export interface EndpointPlan {
  /** The dotted name, such as `vessels.read`. */
  readonly name: string;
  readonly method: string;
  readonly path: string;
  /** The names of the path's parameters, in order. */
  readonly parameters: readonly string[];
  readonly operation: Operation | null;
  readonly entity: EntityPlan;
  /** The body that it sends; null where it sends none. */
  readonly returns: BodyPlan | null;
  /** The input that it takes; null where it takes none. */
  readonly takes: InputPlan | null;
  /** Whether it takes many rows, each by that input. */
  readonly takesMany: boolean;
  readonly under: ParentPlan | null;
  readonly filters: readonly FilterParameter[];
  /** The columns that a caller may sort by. */
  readonly sort: readonly ColumnPlan[];
  /** Whom it answers; null: everybody. */
  readonly audiences: readonly string[] | null;
  /** Says that the endpoint will go. */
  readonly deprecated: DeprecationNotice | null;
  /** What it does, in a sentence; null where nothing is said. */
  readonly about: string | null;
}

/** An API as data. */
export interface ApiPlan {
  readonly title: string;
  readonly version: string;
  readonly audiences: readonly string[];
  readonly endpoints: readonly EndpointPlan[];
}
