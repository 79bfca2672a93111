import { endpointIn } from '../../editions/endpoint-in.js';
import { forEditions } from '../../editions/for-editions.js';
import type { Here } from '../../editions/here.js';
import { DeclarationError, type Finding } from '../../errors/declaration-error.js';
import type { EndpointPlan } from '../../plan/api-plan.js';
import type { SortKey } from '../../plan/condition.js';
import { type BodyPlan, contentShape } from '../../plan/declared.js';
import type { EntityPlan } from '../../plan/entity-plan.js';
import type { InputPlan } from '../../plan/input-plan.js';
import { NO_ENTITY } from '../../plan/values-entity.js';
import { freeze } from '../../util/freeze.js';
import type { Bound, EntityName, ModelTypes } from '../entity/model.js';
import { type Deprecation, noticeOf } from '../members/deprecated.js';
import { optionsIn } from '../references/in-force.js';
import { Broken } from '../references/member.js';
import type { CheckedEndpointOptions } from '../types/checked-types.js';
import type { ByEdition } from '../types/edition-types.js';
import type { FileTaken } from '../types/file-types.js';
import type { InputOf, Takable } from '../types/input-types.js';
import type { SentBody, TakenBy } from '../types/sent.js';
import type { AnyBody } from '../types/shape-types.js';
import { fileFindings, filesOf } from './files.js';
import { type ProblemOptions, problemFindings, problemsOf } from './problems.js';
import { queryFindings } from './query-findings.js';

declare const ENDPOINT: unique symbol;

/** An endpoint before its API names it, without its types. */
export interface AnyEndpoint {
  /** The endpoint in the newest edition. */
  readonly plan: EndpointDraft;
  /** The endpoint in another one. */
  readonly in: (here: Here) => EndpointDraft;
}

/** An endpoint before its API names it: its model and entity, its route, what it sends, takes, is asked and refuses. */
export interface Endpoint<M, K, R extends string, Sends, Takes, Query = null, Problems = null, Files = null>
  extends AnyEndpoint {
  readonly [ENDPOINT]: readonly [M, K, R, Sends, Takes, Query, Problems, Files];
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
  /** The entity whose rows it is about. Left out: it is about none. */
  readonly from?: Bound<M, K>;
  /** What it sends: a shape, `list(shape)`, `page(shape)` or one of these wrapped. Left out: nothing (204). */
  readonly returns?: AnyBody | ByEdition<AnyBody>;
  /** What it takes: an input, `values(…)`, or a list of one of these. */
  readonly takes?: Takable | ByEdition<Takable>;
  /** The files that it takes, by name: one alone may be the body itself; others are parts of a form (`multipart/form-data`). */
  readonly files?: Readonly<Record<string, FileTaken>>;
  /** What its query is told: `values(…)`, columns only. */
  readonly query?: InputOf<unknown> | ByEdition<InputOf<unknown>>;
  /** The problems of its own, by their codes: what handlers refuse, and callers can tell apart. */
  readonly problems?: Readonly<Record<string, ProblemOptions>>;
  /**
   * Whether it makes the row that its path names, so that there may be none yet. Left out, a row of `from` that the path names by its
   * key has to be there for the caller before a handler is asked: otherwise it is 404.
   */
  readonly makes?: boolean;
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

/** What else the details of problems have, by their codes; null where there are no problems. */
export type ProblemsIn<P> = P extends object
  ? { readonly [C in keyof P]: P[C] extends { readonly members: infer I } ? TakenBy<I> : null } & {}
  : null;

/** Whether a body is the bytes of a column. */
const isFile = (body: AnyBody | undefined): boolean =>
  body !== undefined && 'sends' in body && body.sends === 'file';

/** The files that are taken, by name: whether each may be left out. */
export type FilesIn<F> = F extends object
  ? { readonly [N in keyof F]: F[N] extends FileTaken<infer Optional> ? Optional : never } & {}
  : null;

const ROUTE = /^(GET|POST|PUT|PATCH|DELETE) (\/\S*)$/;
/** A parameter is a whole part of a path. */
const PATH = /^(?:\/(?:\{[A-Za-z_]\w*\}|[^\s{}/]*))+$/;

/** The names in a path's braces, in order. */
export const parametersOf = (path: string): readonly string[] =>
  freeze([...path.matchAll(/\{([^}]*)\}/g)].map(([, name = '']) => name));

/** Whether a path names a row of an entity: by all of its key. */
const namesRow = ({ key }: EntityPlan, parameters: readonly string[]): boolean =>
  key.length > 0 && key.every((name) => parameters.includes(name));

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
  if (takes.entity.kind === 'values')
    return [{ path: route, message: 'values stand in no table, so no row is made of them: take an input' }];
  const over = `takes ${takes.name}, an input over ${takes.entity.name}`;
  return [{ path: route, message: `it is about ${entity.name}, but ${over}` }];
};

/** The options as the run time sees them. */
type LooseOptions = EndpointOptions<ModelTypes, never>;

/** An endpoint in one edition. @throws {DeclarationError} `DECLARATION` listing what is wrong with it there */
const draftIn = (route: string, options: LooseOptions, here: Here): EndpointDraft => {
  const undecided: Finding[] = [];
  const {
    from,
    takes: taken,
    query,
    problems,
    files = {},
    ...said
  } = optionsIn(options, here, (name, broken) => undecided.push(...broken.findings(`${route} ${name}`)));
  const [, method, path] = ROUTE.exec(route) ?? [];
  const entity = from?.entity ?? NO_ENTITY;
  const returns: BodyPlan | null = said.returns?.plan ?? null;
  const takes = takenPlan(taken);
  if (method === undefined || path === undefined) {
    const message = 'expected a method and a path, such as "GET /vessels/{id}"';
    throw new DeclarationError(`endpoint "${route}"`, [{ path: route, message }]);
  }
  DeclarationError.throwIfAny(`endpoint "${route}"`, [
    ...undecided,
    ...pathFinding(path),
    ...(returns === null ? [] : bodyFinding(route, entity, returns)),
    ...(takes?.entity.kind === 'values' ? [] : inputFinding(route, entity, takes)),
    ...queryFindings(route, query),
    ...fileFindings(route, files, takes?.fields.map(({ name }) => name) ?? []),
    ...problemFindings(route, problems),
  ]);
  const deprecated = said.deprecated === undefined ? null : noticeOf(said.deprecated);
  if (deprecated instanceof Broken) {
    throw new DeclarationError(`endpoint "${route}"`, deprecated.findings(route));
  }
  const plan: EndpointDraft = freeze({
    method,
    path,
    parameters: parametersOf(path),
    operation: null,
    looksUp: said.makes !== true && namesRow(entity, parametersOf(path)),
    entity,
    returns,
    sends: isFile(said.returns) ? 'file' : 'body',
    takes,
    files: filesOf(files),
    takesMany: taken?.plan.kind === 'list',
    query: query?.plan ?? null,
    problems: problemsOf(problems),
    under: null,
    filters: freeze([]),
    sort: freeze([]),
    order: orderOf(returns),
    audiences: said.audiences === undefined ? null : freeze([...said.audiences]),
    deprecated,
    about: said.about ?? null,
  });
  return endpointIn(plan, here);
};

/**
 * Declares one endpoint.
 *
 * @param route the method and the path, with parameters in braces: `GET /vessels/{id}`
 * @param options `from`: the entity, left out where it is about none; `returns`: a body over it, left out where nothing is
 * sent; `takes`: its input, or `values(…)`; `query`: what its query is told; `problems`: those of its own; `audiences`:
 * those that it answers; `makes`: whether it makes the row that its path names; `deprecated`: says that it will go; `about`: a sentence for descriptions
 * @throws {DeclarationError} `DECLARATION` where the route is no method and path, or the shape is
 * over another entity
 * @example
 * endpoint('GET /vessels/{id}', { from: db.vessel, returns: VesselDetail })
 * @example
 * endpoint('POST /vessels/{id}/inspect', { from: db.vessel, takes: values({ reason: text() }) })
 */
export const endpoint = <
  M extends ModelTypes,
  K extends EntityName<M>,
  const R extends Route,
  const O extends Omit<EndpointOptions<M, K>, 'from'>,
>(
  route: R,
  options: CheckedEndpointOptions<O, K> & Pick<EndpointOptions<M, K>, 'from'>,
): Endpoint<
  M,
  K,
  R,
  SentBody<O['returns']>,
  TakenBy<O['takes']>,
  TakenBy<O['query']>,
  ProblemsIn<O['problems']>,
  FilesIn<O['files']>
> => {
  // The words stand for what the compiler refuses.
  const said = options as unknown as LooseOptions;
  const made = forEditions((here) => draftIn(route, said, here));
  // The phantom that carries the body's type exists for the compiler only.
  return freeze({ plan: made.newest, in: made.in }) as unknown as ReturnType<typeof endpoint<M, K, R, O>>;
};
