import { DeclarationError, type Finding } from '../../errors/declaration-error.js';
import type { EndpointPlan } from '../../plan/api-plan.js';
import type { SortKey } from '../../plan/condition.js';
import { type BodyPlan, contentShape } from '../../plan/declared.js';
import type { EntityPlan } from '../../plan/entity-plan.js';
import type { InputPlan } from '../../plan/input-plan.js';
import { freeze } from '../../util/freeze.js';
import type { Bound, EntityName, ModelTypes } from '../entity/model.js';
import { type Deprecation, noticeOf } from '../members/deprecated.js';
import { Broken } from '../references/member.js';
import type { CheckedEndpointOptions } from '../types/checked-types.js';
import type { Takable } from '../types/input-types.js';
import type { SentBody, TakenBy } from '../types/sent.js';
import type { AnyBody } from '../types/shape-types.js';

declare const ENDPOINT: unique symbol;

/** An endpoint before its API names it, without its types. */
export interface AnyEndpoint {
  readonly plan: EndpointDraft;
}

/** An endpoint before its API names it: its model and entity, its route, what it sends and what it takes. */
export interface Endpoint<M, K, R extends string, Sends, Takes> extends AnyEndpoint {
  readonly [ENDPOINT]: readonly [M, K, R, Sends, Takes];
}

/** An endpoint's plan before it has a name. */
export type EndpointDraft = Omit<EndpointPlan, 'name'>;

/** The parameters in a route: `GET /vessels/{id}` gives `id`. */
export type PathParameters<R extends string> = R extends `${string}{${infer Name}}${infer Rest}`
  ? Name | PathParameters<Rest>
  : never;

/** A method and a path. */
type Route = `${'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE'} /${string}`;

export interface EndpointOptions<M extends ModelTypes, K> {
  /** The entity whose rows it is about. */
  readonly from: Bound<M, K>;
  /** What it sends: a shape, `list(shape)`, `page(shape)` or one of these wrapped. */
  readonly returns: AnyBody;
  /** The input it takes, or `list(input)`. */
  readonly takes?: Takable;
  /** The audiences it answers. Left out: everybody. */
  readonly audiences?: readonly string[];
  /** Says that it will go; sent along with every response. */
  readonly deprecated?: Deprecation;
  /** What it does, in a sentence, for descriptions. */
  readonly about?: string;
}

/** The input that each body is read by, or each of its items; null where there is none. */
export const takenPlan = (takes: Takable | undefined): InputPlan | null => {
  if (takes === undefined) return null;
  return takes.plan.kind === 'list' ? takes.plan.shape : takes.plan;
};

/** The order of a body's rows where the caller chooses none. */
export const orderOf = (body: BodyPlan | null): readonly SortKey[] =>
  body?.kind === 'envelope' ? (body.page?.sort ?? freeze([])) : freeze([]);

const ROUTE = /^(GET|POST|PUT|PATCH|DELETE) (\/\S*)$/;
/** A parameter is a whole part of a path. */
const PATH = /^(?:\/(?:\{[A-Za-z_]\w*\}|[^\s{}/]*))+$/;

/** The names in a path's braces, in order. */
export const parametersOf = (path: string): readonly string[] =>
  freeze([...path.matchAll(/\{([^}]*)\}/g)].map(([, name = '']) => name));

/** What is wrong with a path, if anything. */
export const pathFinding = (path: string): Finding[] =>
  PATH.test(path)
    ? []
    : [{ path, message: 'expected a path such as "/vessels/{id}", each parameter a whole part' }];

/** What is wrong with a body over an entity, if anything. */
export const bodyFinding = (route: string, entity: EntityPlan, body: BodyPlan): Finding[] => {
  const shape = contentShape(body);
  if (shape.entity === entity) return [];
  const over = `returns ${shape.name}, a shape over ${shape.entity.name}`;
  return [{ path: route, message: `it is about ${entity.name}, but ${over}` }];
};

/** What is wrong with an input over an entity, if anything. */
export const inputFinding = (route: string, entity: EntityPlan, takes: InputPlan | null): Finding[] => {
  if (takes === null || takes.entity === entity) return [];
  const over = `takes ${takes.name}, an input over ${takes.entity.name}`;
  return [{ path: route, message: `it is about ${entity.name}, but ${over}` }];
};

/**
 * Declares one endpoint.
 *
 * @param route the method and the path, with parameters in braces: `GET /vessels/{id}`
 * @param options `from`: the entity; `returns`: a body over it; `takes`: its input; `audiences`:
 * those that it answers; `deprecated`: says that it will go; `about`: a sentence for descriptions
 * @throws {DeclarationError} `DECLARATION` where the route is no method and path, or the shape is
 * over another entity
 * @example
 * endpoint('GET /vessels/{id}', { from: db.vessel, returns: VesselDetail })
 */
export const endpoint = <
  M extends ModelTypes,
  K extends EntityName<M>,
  const R extends Route,
  const O extends Omit<EndpointOptions<M, K>, 'from'>,
>(
  route: R,
  options: CheckedEndpointOptions<O, K> & Pick<EndpointOptions<M, K>, 'from'>,
): Endpoint<M, K, R, SentBody<O['returns']>, TakenBy<O['takes']>> => {
  const [, method, path] = ROUTE.exec(route) ?? [];
  const { entity } = options.from;
  const returns: BodyPlan = options.returns.plan;
  if (method === undefined || path === undefined) {
    const message = 'expected a method and a path, such as "GET /vessels/{id}"';
    throw new DeclarationError(`endpoint "${route}"`, [{ path: route, message }]);
  }
  DeclarationError.throwIfAny(`endpoint "${route}"`, [
    ...pathFinding(path),
    ...bodyFinding(route, entity, returns),
    ...inputFinding(route, entity, takenPlan(options.takes)),
  ]);
  const deprecated = options.deprecated === undefined ? null : noticeOf(options.deprecated);
  if (deprecated instanceof Broken) {
    throw new DeclarationError(`endpoint "${route}"`, deprecated.findings(route));
  }
  const plan: EndpointDraft = freeze({
    method,
    path,
    parameters: parametersOf(path),
    operation: null,
    entity,
    returns,
    takes: takenPlan(options.takes),
    takesMany: options.takes?.plan.kind === 'list',
    under: null,
    filters: freeze([]),
    sort: freeze([]),
    order: orderOf(returns),
    audiences: options.audiences === undefined ? null : freeze([...options.audiences]),
    deprecated,
    about: options.about ?? null,
  });
  // The phantom that carries the body's type exists for the compiler only.
  return freeze({ plan }) as unknown as Endpoint<M, K, R, SentBody<O['returns']>, TakenBy<O['takes']>>;
};
