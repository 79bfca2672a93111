import type { Contract, ContractEndpoint } from '../../contract/contract.js';
import { plainName } from '../../contract/make/shape-catalog.js';
import type { JsonValue } from '../../plan/condition.js';
import { sayAudiences } from '../../plan/say-audience.js';
import type { EndpointExamples } from '../../sample/examples-of.js';
import type { JsonSchema } from '../kinds.js';
import { PROBLEM_SCHEMA } from '../schema/problem-schema.js';
import { inputSchema, type SchemaStyle, shapeSchema } from '../schema/shape-schema.js';
import { type DescribedFormat, JSON_ONLY } from './described-format.js';
import { formBody } from './form-content.js';
import {
  type BodyContext,
  freeName,
  joinedSchema,
  type Specification,
  takenContent,
} from './operation-bodies.js';
import { operationParameters } from './operation-parameters.js';
import { operationResponses } from './operation-responses.js';

/** What a document says besides the contract. */
export interface DocumentOptions {
  /** The version of OpenAPI: in 3.2 lists of JSON lines say what each line is. Default: `3.1`, which most tools read. */
  readonly specification?: Specification;
  /** The formats that are spoken; those of `@gribo/http` are such objects. Default: JSON. */
  readonly formats?: readonly DescribedFormat[];
  /** Whether `?format=` stands for an `Accept` header. Default: false. */
  readonly formatParameter?: boolean;
  /** More members of the document's `info`: `description`, `contact`, `license`, … */
  readonly info?: JsonSchema;
  /** Where the API is, as the document's `servers`. */
  readonly servers?: readonly JsonSchema[];
  /** How callers say who they are, as the document's `components.securitySchemes`. */
  readonly securitySchemes?: JsonSchema;
  /** Which of these are needed, as the document's `security`. */
  readonly security?: readonly JsonSchema[];
}

/** The contract of what one audience sees; null: callers of none. */
export const contractFor = (contract: Contract, audience: string | null): Contract => {
  const answers = ({ audiences }: ContractEndpoint): boolean =>
    audiences === undefined || (audience !== null && audiences.includes(audience));
  const endpoints = contract.endpoints.filter(answers).map((endpoint): ContractEndpoint => {
    const { audiences: _audiences, returns, takes, rows, filters, sort, ...rest } = endpoint;
    const isThere = ({ audiences }: { readonly audiences?: readonly (string | null)[] }): boolean =>
      audiences === undefined || audiences.includes(audience);
    const shared = <T extends { readonly audiences?: unknown }>({ audiences: _all, ...one }: T) => one;
    const only = <V extends { readonly audiences: readonly (string | null)[] }>(all: readonly V[]) =>
      all
        .filter(({ audiences }) => audiences.includes(audience))
        .map((one) => ({ ...one, audiences: [audience] }));
    return {
      ...rest,
      filters: filters.filter(isThere).map(shared),
      sort: sort.filter(isThere).map(shared),
      ...(rows === undefined ? {} : { rows: only(rows) }),
      ...(takes === undefined ? {} : { takes: only(takes) }),
      ...(returns === undefined ? {} : { returns: { many: returns.many, variants: only(returns.variants) } }),
    };
  });
  const { shapes, inputs } = reached(contract, endpoints);
  return { ...contract, audiences: audience === null ? [] : [audience], endpoints, shapes, inputs };
};

type Members = Contract['shapes'][string]['members'] | Contract['inputs'][string]['members'];

/** The shapes and inputs that some endpoints lead to. */
const reached = (contract: Contract, endpoints: readonly ContractEndpoint[]) => {
  const names = new Set<string>();
  const walk = (members: Members): void => {
    for (const { type } of members) {
      if (type.kind === 'group') walk(type.members);
      else if (type.kind === 'object' || type.kind === 'list') visit(type.of);
    }
  };
  const visit = (name: string): void => {
    if (names.has(name)) return;
    names.add(name);
    walk(contract.shapes[name]?.members ?? contract.inputs[name]?.members ?? []);
  };
  for (const { takes, returns } of endpoints) {
    for (const { input } of takes ?? []) visit(input);
    for (const { shape } of returns?.variants ?? []) visit(shape);
  }
  const kept = <T>(all: Readonly<Record<string, T>>): Record<string, T> =>
    Object.fromEntries(Object.entries(all).filter(([name]) => names.has(name)));
  return { shapes: kept(contract.shapes), inputs: kept(contract.inputs) };
};

/** Which rows there are for whom, by the row rule. */
const rowWords = ({ rows = [], method }: ContractEndpoint): readonly string[] =>
  rows.flatMap(({ audiences, see, change }) => {
    const whom = sayAudiences(audiences);
    const said = method === 'GET' ? see : (change ?? see);
    if (said === undefined) return [];
    if (said.says === 'never') return [`For ${whom}: no rows.`];
    return [`For ${whom}: ${said.untold === true ? 'some rows' : `rows where ${said.says}`} only.`];
  });

const ACTIONS: Readonly<Record<NonNullable<ContractEndpoint['operation']>, string>> = {
  list: 'list',
  read: 'read one',
  create: 'create one',
  replace: 'replace one',
  amend: 'amend one',
  remove: 'remove one',
};

/** `vessels: read one`. */
const summaryOf = ({ name, operation }: ContractEndpoint): string =>
  operation === undefined ? name : `${name.slice(0, name.lastIndexOf('.'))}: ${ACTIONS[operation]}`;

const tagOf = ({ name }: ContractEndpoint): string => name.split('.')[0] ?? name;

const tagsOf = (endpoints: readonly ContractEndpoint[]): readonly JsonSchema[] => {
  const about = new Map<string, string | undefined>();
  for (const endpoint of endpoints)
    if (!about.has(tagOf(endpoint))) about.set(tagOf(endpoint), endpoint.entity);
  return [...about].map(([name, entity]) => ({
    name,
    ...(entity === undefined ? {} : { description: `Endpoints about ${entity} rows.` }),
  }));
};

/** A plain name for each endpoint, for tools put them into URLs and programs: its own, where that is one. */
const operationIds = (endpoints: readonly ContractEndpoint[]): ReadonlyMap<string, string> => {
  const taken = new Set<string>();
  const idOf = (name: string): string => {
    const plain = plainName(name);
    let id = plain;
    for (let n = 2; taken.has(id); n++) id = `${plain}.${n}`;
    taken.add(id);
    return id;
  };
  return new Map(endpoints.map(({ name }) => [name, idOf(name)]));
};

/** Writes one document. */
class DocumentWriter {
  readonly #context: BodyContext;
  readonly #options: DocumentOptions;
  readonly #problem: string;
  readonly #ids: ReadonlyMap<string, string>;

  constructor(context: BodyContext, options: DocumentOptions) {
    this.#context = context;
    this.#options = options;
    const { contract } = context;
    this.#ids = operationIds(contract.endpoints);
    const endpoints = new Set(contract.endpoints.map(({ name }) => name));
    this.#problem = freeName(endpoints.has('Problem') ? 'ProblemDetails' : 'Problem', contract);
  }

  write(): JsonSchema {
    const { title, version, endpoints } = this.#context.contract;
    const { info = {}, servers, security } = this.#options;
    return {
      openapi: `${this.#context.specification}.0`,
      info: { title, version, ...info },
      ...(servers === undefined ? {} : { servers }),
      ...(security === undefined ? {} : { security }),
      tags: tagsOf(endpoints),
      paths: this.#paths(),
      components: this.#components(),
    };
  }

  #paths(): JsonSchema {
    const paths: Record<string, Record<string, JsonValue>> = {};
    for (const endpoint of this.#context.contract.endpoints) {
      const operation = { [endpoint.method.toLowerCase()]: this.#operation(endpoint) };
      paths[endpoint.path] = { ...paths[endpoint.path], ...operation };
    }
    return paths;
  }

  #operation(endpoint: ContractEndpoint): JsonSchema {
    const { name, about, audiences, deprecated } = endpoint;
    const { formats, refTo } = this.#context;
    const parameters = operationParameters(endpoint, formats, this.#options.formatParameter === true);
    const notice = deprecated?.instead == null ? null : `Use ${deprecated.instead} instead.`;
    const whom = audiences === undefined ? null : `Answers ${audiences.join(', ')} only.`;
    const description = [about, whom, ...rowWords(endpoint), notice].filter((part) => part != null).join(' ');
    return {
      operationId: this.#ids.get(name) ?? name,
      summary: summaryOf(endpoint),
      ...(description === '' ? {} : { description }),
      tags: [tagOf(endpoint)],
      ...(deprecated === undefined ? {} : { deprecated: true }),
      ...(audiences === undefined ? {} : { 'x-audiences': audiences }),
      ...(parameters.length === 0 ? {} : { parameters }),
      ...this.#requestBody(endpoint),
      responses: operationResponses(endpoint, this.#context, refTo(this.#problem)),
    };
  }

  #requestBody(endpoint: ContractEndpoint): JsonSchema {
    const { takes, files } = endpoint;
    if (files !== undefined) return { requestBody: formBody(endpoint, files, this.#context) };
    return takes === undefined
      ? {}
      : { requestBody: { required: true, content: takenContent(endpoint, this.#context) } };
  }

  #components(): JsonSchema {
    const { contract, refTo } = this.#context;
    const style: SchemaStyle = { refTo, closed: false };
    const schemas = [
      ...Object.entries(contract.shapes).map(([name, shape]) => [name, shapeSchema(shape, style)] as const),
      ...Object.entries(contract.inputs).map(([name, input]) => [name, inputSchema(input, style)] as const),
      ...contract.endpoints.flatMap((endpoint) => joinedSchema(endpoint, this.#context)),
      [this.#problem, PROBLEM_SCHEMA] as const,
    ];
    const { securitySchemes } = this.#options;
    return {
      schemas: Object.fromEntries(schemas),
      ...(securitySchemes === undefined ? {} : { securitySchemes }),
    };
  }
}

/**
 * The OpenAPI document (3.1 or 3.2) of a contract.
 *
 * @param examples example bodies by the names of endpoints
 */
export const openApiDocument = (
  contract: Contract,
  options: DocumentOptions,
  examples: Readonly<Record<string, EndpointExamples>>,
): JsonSchema => {
  const refTo = (name: string): string => `#/components/schemas/${name}`;
  const { formats = JSON_ONLY, specification = '3.1' } = options;
  return new DocumentWriter({ specification, contract, formats, refTo, examples }, options).write();
};
