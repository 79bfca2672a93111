import { DeclarationError } from '../errors/declaration-error.js';
import type { ApiPlan, EndpointPlan } from '../plan/api-plan.js';
import { freeze } from '../util/freeze.js';
import { checkApi } from './check-api.js';
import type { Collection } from './collection.js';
import type { Endpoint, PathParameters } from './endpoint.js';
import type { Output } from './shape-types.js';

/** Endpoints and collections by name; groups of them give dotted names. */
export interface Endpoints {
  readonly [name: string]: Endpoint<unknown> | Collection<unknown> | Endpoints;
}

/** A declared API. */
export interface Api<E, A extends string = string> {
  readonly endpoints: E;
  readonly audiences: readonly A[];
  readonly plan: ApiPlan;
}

export interface ApiOptions<E extends Endpoints, A extends string> {
  readonly title: string;
  /** The API's own version. */
  readonly version: string;
  /** The names of those whom responses are for. */
  readonly audiences?: readonly A[];
  /** The names a caller may ask for with `?with=`; left out, those that the shapes ask about. */
  readonly asks?: readonly string[];
  readonly endpoints: E;
}

/** Every dotted name of an API's endpoints. */
export type EndpointNames<E> = {
  [K in keyof E & string]: E[K] extends Endpoint<unknown>
    ? K
    : E[K] extends Collection<infer Bodies>
      ? `${K}.${keyof Bodies & string}`
      : `${K}.${EndpointNames<E[K]>}`;
}[keyof E & string];

/** The endpoint of a dotted name: an `Endpoint`, or the body of a collection's operation. */
type Named<E, Name> = Name extends keyof E
  ? E[Name]
  : Name extends `${infer Head}.${infer Rest}`
    ? Head extends keyof E
      ? E[Head] extends Collection<infer Bodies>
        ? Rest extends keyof Bodies
          ? Bodies[Rest]
          : never
        : Named<E[Head], Rest>
      : never
    : never;

type BodyOf<X> = X extends Endpoint<infer B> ? B : X;

/**
 * What an endpoint sends, exactly: members of `at` as they are there; those bound to an audience
 * optional, or settled where the audience is named.
 * @example
 * type Reply = ResponseOf<typeof harbour, 'vessels.read', 'agent'>;
 */
export type ResponseOf<P, Name extends string, Audience extends string = string> =
  P extends Api<infer E, string>
    ? BodyOf<Named<E, Name>> extends null
      ? null
      : Output<BodyOf<Named<E, Name>>, Name, Audience>
    : never;

/** The path parameters of an endpoint of its own, each a string. */
export type ParametersOf<X> =
  X extends Endpoint<unknown, infer R> ? { [P in PathParameters<R>]: string } : never;

const isEndpoint = (value: object): value is Endpoint<unknown> => 'plan' in value;
const isCollection = (value: object): value is Collection<unknown> => 'plans' in value;

/** The endpoints under their dotted names, in the order they were declared. */
const named = (endpoints: Endpoints, prefix = ''): EndpointPlan[] =>
  Object.entries(endpoints).flatMap(([key, value]): EndpointPlan[] => {
    const name = prefix + key;
    if (isEndpoint(value)) return [freeze({ name, ...value.plan })];
    if (!isCollection(value)) return named(value, `${name}.`);
    return [...value.plans].map(([operation, plan]) => freeze({ name: `${name}.${operation}`, ...plan }));
  });

/**
 * Declares an API: its endpoints under their names, and whom it answers.
 *
 * @throws {DeclarationError} `DECLARATION` listing every unknown endpoint in an `at`, every
 * unknown audience, routes that are there twice, path parameters that are no key, and names to
 * ask for that are unknown or never used
 * @example
 * api({ title: 'Harbour', version: '1.0.0', audiences: ['agent'], endpoints: { vessels: collection('/vessels', db.vessel, { read: VesselDetail }) } })
 */
export const api = <const E extends Endpoints, const A extends string = never>(
  options: ApiOptions<E, A>,
): Api<E, A> => {
  const { title, version, audiences = [] } = options;
  const endpoints = freeze(named(options.endpoints));
  const plan: ApiPlan = freeze({ title, version, audiences: freeze([...audiences]), endpoints });
  DeclarationError.throwIfAny(`api "${title}"`, checkApi(plan, options.asks ?? null));
  return freeze({ endpoints: options.endpoints, audiences: freeze([...audiences]), plan });
};
