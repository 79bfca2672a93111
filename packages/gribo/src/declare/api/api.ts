import { ruleIn } from '../../editions/endpoint-in.js';
import type { Here } from '../../editions/here.js';
import { DeclarationError, type Finding } from '../../errors/declaration-error.js';
import type { ApiPlan, EditionPlan, EndpointPlan } from '../../plan/api-plan.js';
import { showEndpoint } from '../../shown/show-endpoint.js';
import { ShownColumns } from '../../shown/shown-columns.js';
import { freeze } from '../../util/freeze.js';
import { type CallerFacts, factsOfCaller, identityOfCaller } from '../caller/caller-of.js';
import type { ModelTypes } from '../entity/model.js';
import { inForce } from '../references/in-force.js';
import { Broken } from '../references/member.js';
import type { ByEdition, EditionName, InAny, InForce, UpTo } from '../types/edition-types.js';
import type { FileBody } from '../types/file-types.js';
import type { SendsAt, TakenIn, TakenInAny, TakesAt } from '../types/sent.js';
import type { AnyBody, Output } from '../types/shape-types.js';
import { checkApi } from './check-api.js';
import type { AnyCollection, Collection, OperationParameters } from './collection.js';
import {
  type EditionOption,
  type EditionsMet,
  editionPlans,
  settledAt,
  unknownEditions,
} from './edition-plans.js';
import type { AnyEndpoint, Endpoint, PathParameters } from './endpoint.js';
import type { RowRule } from './row-rule.js';

declare const NAMES: unique symbol;
declare const AUDIENCES: unique symbol;
declare const CALLER: unique symbol;
declare const EDITIONS: unique symbol;

/** Endpoints and collections by name; groups of them give dotted names. */
export interface Endpoints {
  readonly [name: string]: Declarable | Endpoints;
}

/** What has a name in an API: in all of its editions, in some, or another in each. */
type Declarable = AnyEndpoint | AnyCollection | ByEdition<AnyEndpoint | AnyCollection>;

/** A declared API, whatever it declares. */
export interface AnyApi {
  readonly endpoints: unknown;
  readonly audiences: readonly string[];
  readonly plan: ApiPlan;
  /** The dotted names of its endpoints: for the compiler only. */
  readonly [NAMES]: string;
  /** Those whom it answers: for the compiler only. */
  readonly [AUDIENCES]: string;
  /** What is known of a caller: for the compiler only. */
  readonly [CALLER]: unknown;
  /** Its editions, oldest first: for the compiler only. */
  readonly [EDITIONS]: readonly EditionOption[];
}

/** A declared API. */
export interface Api<
  E,
  A extends string = string,
  C = unknown,
  Ed extends readonly EditionOption[] = readonly [],
> extends AnyApi {
  readonly endpoints: E;
  readonly audiences: readonly A[];
  readonly [AUDIENCES]: A;
  readonly [CALLER]: C;
  readonly [EDITIONS]: Ed;
  // Written out here, and not by a name: then messages list the endpoints.
  readonly [NAMES]: { [K in keyof E & string]: NamesUnder<K, E[K]> }[keyof E & string];
}

export interface ApiOptions<
  E extends Endpoints,
  A extends string,
  C = unknown,
  Ed extends readonly EditionOption[] = readonly EditionOption[],
> {
  readonly title: string;
  /** The API's own version. */
  readonly version: string;
  /** The names of those whom responses are for. */
  readonly audiences?: readonly A[];
  /** The names a caller may ask for with `?with=`; left out, those that the shapes ask about. */
  readonly asks?: readonly string[];
  /** What is known of a caller besides its audience: what `callerOf` returns. */
  readonly caller?: C;
  /**
   * The forms of it that callers rely on, oldest first: names such as `'2026-05'`, or `{ name, deprecated }` for one that will go.
   * Numbers in names count by their value, so that a name says which edition is earlier.
   */
  readonly editions?: Ed;
  /** Which rows callers may see and change: one `rowRule` for each entity whose rows are not everybody's. */
  readonly rows?: readonly RowRule[];
  readonly endpoints: E;
}

/** The dotted names of an endpoint, of a collection, or of a group of them. */
type NamesUnder<K extends string, X> =
  X extends ByEdition<unknown>
    ? NamesUnder<K, InAny<X>>
    : X extends AnyEndpoint
      ? K
      : X extends Collection<unknown, unknown, string, infer Ops>
        ? `${K}.${keyof Ops & string}`
        : `${K}.${EndpointNames<X>}`;

/** Every dotted name of the endpoints in a group. */
type EndpointNames<E> = { [K in keyof E & string]: NamesUnder<K, E[K]> }[keyof E & string];

/** The dotted names of an API's endpoints, to be checked and completed. */
export type NameIn<P extends AnyApi> = P[typeof NAMES];

/** The audiences of an API, to be checked and completed. */
export type AudienceIn<P extends AnyApi> = P[typeof AUDIENCES];

/** The editions of an API, to be checked and completed. */
export type EditionIn<P extends AnyApi> = EditionName<P[typeof EDITIONS][number]>;

/** The names of an edition and of those before it; where none is named, `string`: the newest. */
type NamesUpTo<P extends AnyApi, Edition> = [Edition] extends [never]
  ? string
  : UpTo<P[typeof EDITIONS], Edition>;

/** What a service gives with each request: its audience, and the facts that the API declares. */
export type CallerIn<P extends AnyApi> = {
  readonly audience?: AudienceIn<P> | null;
} & Partial<CallerFacts<P[typeof CALLER]>>;

/** What is declared of an endpoint, as types: what it sends, takes, is asked and refuses, its path's parameters, its model and entity. */
interface Declared<Sends, Takes, Parameters, M, K, Query = null, Problems = null, Files = null> {
  readonly sends: Sends;
  readonly takes: Takes;
  readonly query: Query;
  readonly problems: Problems;
  readonly files: Files;
  readonly parameters: Parameters;
  readonly model: M;
  readonly entity: K;
}

/** What is declared of an endpoint. */
type OfEndpoint<X> =
  X extends Endpoint<
    infer M,
    infer K,
    infer R,
    infer Sends,
    infer Takes,
    infer Query,
    infer Problems,
    infer Files
  >
    ? Declared<Sends, Takes, PathParameters<R>, M, K, Query, Problems, Files>
    : never;

/** What is declared of an operation of a collection, or of an endpoint in a group. */
type Within<X, Rest, Ed extends string> =
  X extends Collection<infer M extends ModelTypes, infer K, infer P, infer Ops>
    ? Rest extends keyof Ops
      ? Declared<SendsAt<Ops, Rest>, TakesAt<Ops, Rest>, OperationParameters<M, K, P, Rest>, M, K>
      : never
    : DeclaredAt<X, Rest, Ed>;

/** What stands under a name in an edition; of what is not there in it, and where none is meant, all that it is anywhere. */
type There<X, Ed extends string> = [Ed] extends [never]
  ? InAny<X>
  : [InForce<X, Ed>] extends [never]
    ? InAny<X>
    : InForce<X, Ed>;

/** What is declared under a dotted name, in the edition of the names `Ed`: `string`, the newest; `never`, any of them. */
type DeclaredAt<E, Name, Ed extends string = never> = Name extends keyof E
  ? OfEndpoint<There<E[Name], Ed>>
  : Name extends `${infer Head}.${infer Rest}`
    ? Head extends keyof E
      ? Within<There<E[Head], Ed>, Rest, Ed>
      : never
    : never;

/** What one endpoint sends to one audience. */
type Reply<Sends, Name extends string, A extends string, Ed extends string> = Sends extends FileBody
  ? Uint8Array
  : Sends extends AnyBody
    ? Output<Sends, Name, A, Ed>
    : null;

/**
 * What an endpoint sends, exactly: members of `at` as they are there; those bound to an audience
 * optional, or settled where the audience is named. Of several endpoints or audiences, one of what each is sent. Where no
 * edition is named, it is the newest.
 * @example
 * type Reply = ResponseOf<typeof harbour, 'vessels.read', 'agent'>;
 */
export type ResponseOf<
  P extends AnyApi,
  Name extends NameIn<P>,
  Audience extends AudienceIn<P> = never,
  Edition extends EditionIn<P> = never,
> = Name extends string
  ? Reply<
      InForce<DeclaredAt<P['endpoints'], Name, NamesUpTo<P, Edition>>['sends'], NamesUpTo<P, Edition>>,
      Name,
      [Audience] extends [never] ? string : Audience,
      NamesUpTo<P, Edition>
    >
  : never;

/**
 * The body that an endpoint sends, as far as its rows and what it writes are concerned; null where it sends none. Where it
 * differs by edition, one of them.
 * @example
 * type Detail = BodyOf<typeof harbour, 'vessels.read'>;
 */
export type BodyOf<P extends AnyApi, Name extends NameIn<P>> = InAny<
  DeclaredAt<P['endpoints'], Name>['sends']
>;

/**
 * The change that an endpoint's input yields; null where it takes none. Where no edition is named, it is what any of them
 * yields: members that only some have are optional.
 * @example
 * type NewVessel = RequestOf<typeof harbour, 'vessels.create'>;
 */
export type RequestOf<P extends AnyApi, Name extends NameIn<P>, Edition extends EditionIn<P> = never> = [
  Edition,
] extends [never]
  ? TakenInAny<DeclaredAt<P['endpoints'], Name>['takes']>
  : TakenIn<DeclaredAt<P['endpoints'], Name, NamesUpTo<P, Edition>>['takes'], NamesUpTo<P, Edition>>;

/**
 * What an endpoint's query is told, read; null where it is told nothing.
 * @example
 * type Asked = QueryOf<typeof harbour, 'portCalls.close'>; // { dryRun: boolean }
 */
export type QueryOf<P extends AnyApi, Name extends NameIn<P>> = TakenInAny<
  DeclaredAt<P['endpoints'], Name>['query']
>;

/**
 * The problems of an endpoint's own: what else their details have, by their codes.
 * @example
 * type Refused = ProblemsOf<typeof harbour, 'portCalls.close'>;
 */
export type ProblemsOf<P extends AnyApi, Name extends NameIn<P>> = DeclaredAt<
  P['endpoints'],
  Name
>['problems'];

/**
 * The files that an endpoint takes: whether each may be left out, by their names; null where it takes none.
 * @example
 * type Sent = FilesOf<typeof harbour, 'vessels.setPhoto'>;
 */
export type FilesOf<P extends AnyApi, Name extends NameIn<P>> = DeclaredAt<P['endpoints'], Name>['files'];

/** The model of an endpoint's rows. */
export type ModelAt<P extends AnyApi, Name extends NameIn<P>> = DeclaredAt<P['endpoints'], Name>['model'];

/** The entity of an endpoint's rows. */
export type EntityAt<P extends AnyApi, Name extends NameIn<P>> = DeclaredAt<P['endpoints'], Name>['entity'];

/**
 * The path parameters of an endpoint, each a string.
 * @example
 * type Path = ParametersOf<typeof harbour, 'cargo.list'>; // { portCall: string }
 */
export type ParametersOf<P extends AnyApi, Name extends NameIn<P>> = {
  readonly [N in DeclaredAt<P['endpoints'], Name>['parameters'] & string]: string;
};

/** What is given as `caller` is what `callerOf` made. */
const callerFindings = (caller: unknown): Finding[] =>
  caller === undefined || factsOfCaller(caller) !== null
    ? []
    : [{ path: 'caller', message: 'expected what callerOf({ … }) returns, all of it' }];

/** A name that every object has, such as `constructor`, would be found where nobody declared it. */
const audienceFindings = (audiences: readonly string[] = []): Finding[] =>
  audiences
    .filter((name) => name === '' || name in Object.prototype)
    .map((name) => ({ path: 'audiences', message: `"${name}" is no name for an audience: take another` }));

const isEndpoint = (value: object): value is AnyEndpoint => 'plan' in value;
const isCollection = (value: object): value is AnyCollection => 'plans' in value;

/** Values that were given no name are called as the endpoint that takes them. */
const namedAfter = (endpoint: EndpointPlan): EndpointPlan => {
  const { name, takes } = endpoint;
  if (takes === null || takes.name !== '') return endpoint;
  const called = name.replace(/(?:^|\.)(.)/g, (_all, letter: string) => letter.toUpperCase());
  return freeze({ ...endpoint, takes: freeze({ ...takes, name: called }) });
};

/** Settles what is declared at a place, for one edition. */
type SettleAt = <T>(place: string, settle: (here: Here) => T) => T;

/** The endpoints of one edition under their dotted names, in the order they were declared. */
const named = (endpoints: Endpoints, at: SettleAt, prefix = ''): EndpointPlan[] =>
  Object.entries(endpoints).flatMap(([key, declared]) => {
    const name = prefix + key;
    return at(name, (here): EndpointPlan[] => {
      const value = inForce(declared, here);
      if (value instanceof Broken) throw new DeclarationError('api', value.findings(name));
      // Nothing, or what `Endpoints` says: the compiler sees what was given before an edition was.
      const there = value as AnyEndpoint | AnyCollection | Endpoints | undefined;
      if (there === undefined) return [];
      if (isEndpoint(there)) return [namedAfter(freeze({ name, ...there.in(here) }))];
      if (!isCollection(there)) return named(there, at, `${name}.`);
      return [...there.in(here)].map(([operation, plan]) =>
        freeze({ name: `${name}.${operation}`, ...plan }),
      );
    });
  });

/**
 * Declares an API: its endpoints under their names, whom it answers, and in which editions.
 *
 * @throws {DeclarationError} `DECLARATION` listing every unknown endpoint in an `at`, every
 * unknown audience and fact, routes that are there twice, path parameters that are no key, and names to
 * ask for that are unknown or never used
 * @example
 * api({ title: 'Harbour', version: '1.0.0', audiences: ['agent'], endpoints: { vessels: collection('/vessels', db.vessel, { read: VesselDetail }) } })
 */
export const api = <
  const E extends Endpoints,
  const A extends string = never,
  const C = unknown,
  const Ed extends readonly EditionOption[] = readonly [],
>(
  options: ApiOptions<E, A, C, Ed>,
): Api<E, A, C, Ed> => {
  const subject = `api "${options.title}"`;
  const { editions, findings } = editionPlans(options.editions ?? []);
  DeclarationError.throwIfAny(subject, [
    ...callerFindings(options.caller),
    ...audienceFindings(options.audiences),
    ...findings,
  ]);
  const met: EditionsMet = new Map();
  const plans = (editions.length === 0 ? [null] : editions).map((edition) => planIn(options, edition, met));
  DeclarationError.throwIfAny(subject, [
    ...unknownEditions(met, editions),
    ...checkApi(plans, options.asks ?? null),
  ]);
  const earlier = freeze(plans.slice(0, -1));
  const plan = freeze({ ...(plans.at(-1) as ApiPlan), earlier });
  // The names exist for the compiler only.
  return freeze({
    endpoints: options.endpoints,
    audiences: freeze([...(options.audiences ?? [])]),
    plan,
  }) as unknown as Api<E, A, C, Ed>;
};

/** The API in one edition. @param met gathers the names of the editions that conditions are about */
const planIn = (
  options: ApiOptions<Endpoints, string>,
  edition: EditionPlan | null,
  met: EditionsMet,
): ApiPlan => {
  const { title, version, audiences = [] } = options;
  const at: SettleAt = (place, settle) => settledAt(place, edition?.name, met, settle);
  const rules = (options.rows ?? []).map(({ plan }) =>
    at(`rows of ${plan.entity.name}`, (here) => ruleIn(plan, here)),
  );
  const declared = named(options.endpoints, at);
  const shown = new ShownColumns(declared, rules);
  return freeze({
    title,
    version,
    audiences: freeze([...audiences]),
    caller: factsOfCaller(options.caller) ?? freeze([]),
    identity: identityOfCaller(options.caller),
    rules: freeze(rules),
    endpoints: freeze(declared.map((endpoint) => showEndpoint(endpoint, shown))),
    edition,
    earlier: freeze([]),
  });
};
