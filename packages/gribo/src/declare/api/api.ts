import { DeclarationError } from '../../errors/declaration-error.js';
import type { ApiPlan, EndpointPlan } from '../../plan/api-plan.js';
import { freeze } from '../../util/freeze.js';
import type { Change } from '../types/input-types.js';
import type { Output } from '../types/shape-types.js';
import { checkApi } from './check-api.js';
import type { Collection } from './collection.js';
import type { Endpoint, PathParameters } from './endpoint.js';

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

/** What is declared of an endpoint, as types: its body, its input, and the names of its path's parameters. */
type Declared<E, Name> = Name extends keyof E
  ? E[Name] extends Endpoint<infer B, infer R, infer I>
    ? readonly [B, I, PathParameters<R>]
    : never
  : Name extends `${infer Head}.${infer Rest}`
    ? Head extends keyof E
      ? E[Head] extends Collection<infer Bodies, infer Inputs, infer Parameters>
        ? Rest extends keyof Bodies & keyof Inputs & keyof Parameters
          ? readonly [Bodies[Rest], Inputs[Rest], Parameters[Rest]]
          : never
        : Declared<E[Head], Rest>
      : never
    : never;

/**
 * What an endpoint sends, exactly: members of `at` as they are there; those bound to an audience
 * optional, or settled where the audience is named.
 * @example
 * type Reply = ResponseOf<typeof harbour, 'vessels.read', 'agent'>;
 */
export type ResponseOf<P, Name extends string, Audience extends string = string> =
  P extends Api<infer E, string>
    ? Declared<E, Name>[0] extends null
      ? null
      : Output<Declared<E, Name>[0], Name, Audience>
    : never;

/**
 * The body that an endpoint sends, as it was declared.
 * @example
 * type Detail = BodyOf<typeof harbour, 'vessels.read'>;
 */
export type BodyOf<P, Name extends string> = P extends Api<infer E, string> ? Declared<E, Name>[0] : never;

/**
 * The change that an endpoint's input yields; null where it takes none.
 * @example
 * type NewVessel = RequestOf<typeof harbour, 'vessels.create'>;
 */
export type RequestOf<P, Name extends string> =
  P extends Api<infer E, string>
    ? Declared<E, Name>[1] extends null
      ? null
      : Change<Declared<E, Name>[1]>
    : never;

/**
 * The path parameters of an endpoint, each a string.
 * @example
 * type Path = ParametersOf<typeof harbour, 'cargo.list'>; // { portCall: string }
 */
export type ParametersOf<P, Name extends string> =
  P extends Api<infer E, string> ? { readonly [N in Declared<E, Name>[2] & string]: string } : never;

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
