import type { ConditionNode, FactPlan, FilterOperator, SortKey } from './condition.js';
import type { BodyPlan, DeprecationNotice } from './declared.js';
import type { ColumnPlan, EntityPlan, LinkPlan } from './entity-plan.js';
import type { InputPlan } from './input-plan.js';

/** What an endpoint of a collection does; null for an endpoint of its own. */
export type Operation = 'list' | 'read' | 'create' | 'replace' | 'amend' | 'remove';

/** A query parameter that compares a column, behind to-one links too: `?flag=QM`. */
export interface FilterParameter {
  readonly name: string;
  readonly path: readonly LinkPlan[];
  readonly column: ColumnPlan;
  readonly operator: FilterOperator;
  /** Whom it is there for, as a condition that the situation settles; null: everybody. */
  readonly when: ConditionNode | null;
  /** In rows where this does not hold, the value counts as null: that is what the caller sees. Null: it always holds. */
  readonly shown: ConditionNode | null;
}

/** A column that a caller may sort by, behind to-one links too: `?sort=vessel.name`. */
export interface SortParameter extends Omit<FilterParameter, 'operator'> {}

/** The parent of a child collection: the path's parameter holds its key. */
export interface ParentPlan {
  /** The parameters of the path that name the parent, in step with the columns of the link. */
  readonly parameters: readonly string[];
  readonly link: LinkPlan;
}

/** A problem that an endpoint may answer with, besides those that every endpoint may. */
export interface ProblemPlan {
  /** What tells it apart: the member `code` of its details. */
  readonly code: string;
  readonly status: number;
  readonly title: string;
  /** A URI for this kind of problem (RFC 9457, section 3.1.1); null: `about:blank`. */
  readonly type: string | null;
  /** When it comes, in a sentence; null where nothing is said. */
  readonly about: string | null;
  /** What else its details have; null: nothing. */
  readonly members: InputPlan | null;
}

/** A file that an endpoint takes. */
export interface FilePlan {
  readonly name: string;
  /** The media types that it may be of; null: any. */
  readonly types: readonly string[] | null;
  /** The most bytes that it may have. */
  readonly max: number;
  readonly optional: boolean;
  /** What it is, in a sentence; null where nothing is said. */
  readonly about: string | null;
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
  /**
   * Whether an endpoint of one's own names a row of its entity, which has to be there for the caller before its handler is asked. Not
   * where it makes that row.
   */
  readonly looksUp: boolean;
  readonly entity: EntityPlan;
  /** The body that it sends; null where it sends none. */
  readonly returns: BodyPlan | null;
  /** What is made of that: a body, or the bytes of its member `bytes`. */
  readonly sends: 'body' | 'file';
  /** The files that it takes: alone the body itself, else parts of a form. */
  readonly files: readonly FilePlan[];
  /** The input that it takes; null where it takes none. */
  readonly takes: InputPlan | null;
  /** Whether it takes many rows, each by that input. */
  readonly takesMany: boolean;
  /** What its query is told besides what every query may be; null: nothing. */
  readonly query: InputPlan | null;
  /** The problems of its own. */
  readonly problems: readonly ProblemPlan[];
  readonly under: ParentPlan | null;
  readonly filters: readonly FilterParameter[];
  /** What a caller may sort by. */
  readonly sort: readonly SortParameter[];
  /** The order of its rows where the caller chooses none. */
  readonly order: readonly SortKey<ConditionNode>[];
  /** Whom it answers; null: everybody. */
  readonly audiences: readonly string[] | null;
  /** Says that the endpoint will go. */
  readonly deprecated: DeprecationNotice | null;
  /** What it does, in a sentence; null where nothing is said. */
  readonly about: string | null;
}

/** Which rows of an entity a caller may see, and which it may change. */
export interface RowRulePlan {
  readonly entity: EntityPlan;
  readonly see: ConditionNode;
  readonly change: ConditionNode;
  /** What the rule is, in a sentence for those whose change it refuses; null where nothing is said. */
  readonly about: string | null;
}

/** One edition of an API: a form of it that callers rely on. */
export interface EditionPlan {
  readonly name: string;
  /** Says that it will go; null: it stays. */
  readonly deprecated: DeprecationNotice | null;
}

/** An API as data, in one edition where it has several. */
export interface ApiPlan {
  readonly title: string;
  readonly version: string;
  readonly audiences: readonly string[];
  /** What is known of a caller besides its audience. */
  readonly caller: readonly FactPlan[];
  /** The names of those facts that say who it is. */
  readonly identity: readonly string[];
  /** One for each entity whose rows are not everybody's. */
  readonly rules: readonly RowRulePlan[];
  readonly endpoints: readonly EndpointPlan[];
  /** The edition that this is; null where the API has none. */
  readonly edition: EditionPlan | null;
  /** The same API in the editions before this one, oldest first: as if each had been declared alone. */
  readonly earlier: readonly ApiPlan[];
}
