import type { ConditionNode, ListSelection, SortKey, ValueNode } from './condition.js';
import type { EntityPlan, LinkPlan } from './entity-plan.js';

/** Says that a member will go: dates as `YYYY-MM-DD`, and what to read instead. */
export interface DeprecationNotice {
  readonly since: string | null;
  readonly sunset: string | null;
  readonly instead: string | null;
}

/** A member as it was declared, before a situation settled it. */
export type DeclaredNode =
  | ValueNode
  | { readonly kind: 'group'; readonly fields: readonly DeclaredField[] }
  | { readonly kind: 'nested'; readonly path: readonly LinkPlan[]; readonly shape: ShapePlan }
  | {
      readonly kind: 'nestedList';
      readonly path: readonly LinkPlan[];
      readonly link: LinkPlan;
      readonly selection: ListSelection<ConditionNode>;
      readonly shape: ShapePlan;
    }
  | {
      readonly kind: 'first';
      readonly path: readonly LinkPlan[];
      readonly link: LinkPlan;
      readonly selection: ListSelection<ConditionNode>;
      readonly shape: ShapePlan;
    }
  | { readonly kind: 'cases'; readonly cases: readonly Case[]; readonly otherwise: DeclaredNode | null }
  | { readonly kind: 'given'; readonly condition: ConditionNode; readonly node: DeclaredNode }
  /** What decides is the edition: there is always one of the two. */
  | {
      readonly kind: 'either';
      readonly condition: ConditionNode;
      readonly node: DeclaredNode;
      readonly otherwise: DeclaredNode;
    }
  | { readonly kind: 'unsealed'; readonly audiences: readonly string[]; readonly node: DeclaredNode }
  | { readonly kind: 'unlessNull'; readonly node: DeclaredNode }
  | { readonly kind: 'deprecated'; readonly notice: DeprecationNotice; readonly node: DeclaredNode };

/** What a member is at one endpoint, named in full (`vessels.read`) or by its last part (`read`). */
export interface Case {
  readonly endpoint: string;
  readonly node: DeclaredNode;
}

export interface DeclaredField {
  readonly name: string;
  readonly node: DeclaredNode;
}

/** A shape as it was declared. */
export interface ShapePlan {
  readonly kind: 'shape';
  /** The shape's name, for messages and descriptions; the entity's where none was given. */
  readonly name: string;
  readonly entity: EntityPlan;
  /** What it is, in a sentence; null where nothing is said. */
  readonly about: string | null;
  readonly fields: readonly DeclaredField[];
}

/** Many rows of one shape. */
export interface ListPlan {
  readonly kind: 'list';
  readonly shape: ShapePlan;
}

/** How a list is cut into pages. */
export interface PageSettings {
  /** By number: the client asks for page 3. By cursor: it asks for what comes after the last row it has. */
  readonly by: 'number' | 'cursor';
  /** Rows on a page where the client does not say, and the most that it may ask for. */
  readonly size: number;
  readonly max: number;
  /** Whether all rows are counted, to say how many there are. */
  readonly totals: boolean;
  readonly sort: readonly SortKey[];
}

/** A body inside another literal: a page, or what `wrap` puts around. */
export interface EnvelopePlan {
  readonly kind: 'envelope';
  readonly content: ShapePlan | ListPlan;
  /** The literal, as a shape over what the envelope is written from. */
  readonly shape: ShapePlan;
  readonly page: PageSettings | null;
}

/** What a writer writes and an endpoint returns, as it was declared. */
export type BodyPlan = ShapePlan | ListPlan | EnvelopePlan;

/** The shape of the rows that a body is about. */
export const contentShape = (body: BodyPlan): ShapePlan => {
  switch (body.kind) {
    case 'shape':
      return body;
    case 'list':
      return body.shape;
    case 'envelope':
      return contentShape(body.content);
    default:
      return body satisfies never;
  }
};

/** Whether a body is about many rows. */
export const isAboutMany = (body: BodyPlan): boolean =>
  body.kind === 'envelope' ? body.content.kind === 'list' : body.kind === 'list';
