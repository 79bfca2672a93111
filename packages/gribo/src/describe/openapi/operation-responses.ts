import type { ContractEndpoint, ContractProblem } from '../../contract/contract.js';
import { isReference } from '../../util/is-reference.js';
import type { JsonSchema } from '../kinds.js';
import { inputSchema, type SchemaStyle } from '../schema/shape-schema.js';
import { type BodyContext, sentContent } from './operation-bodies.js';

const header = (description: string): JsonSchema => ({ description, schema: { type: 'string' } });

const isReading = ({ method }: ContractEndpoint): boolean => method === 'GET';

const sendsAnything = ({ returns, file }: ContractEndpoint): boolean =>
  returns !== undefined || file !== undefined;

/** Bytes as they are have a media type and no schema (OpenAPI 3.1, section 4.8.14.3). */
const fileContent = (types: readonly string[] = ['*/*']): JsonSchema =>
  Object.fromEntries(types.map((type) => [type, {}]));

/** What `Link` leads to: the pages around, or what is used instead. */
const linkHeader = ({ page, deprecated }: ContractEndpoint): JsonSchema => {
  const words = [
    ...(page === undefined ? [] : ['The pages around this one (RFC 8288).']),
    ...(deprecated?.instead == null || !isReference(deprecated.instead)
      ? []
      : ['What to use instead, as `successor-version` (RFC 5829).']),
  ];
  return words.length === 0 ? {} : { Link: header(words.join(' ')) };
};

/** What a problem says in headers: of 415, which media types are read (RFC 9110, section 15.5.16; RFC 5789, section 2.2). */
const problemHeaders = (code: string, { method }: ContractEndpoint): { readonly headers?: JsonSchema } => {
  if (code !== '415') return {};
  const name = method === 'PATCH' ? 'Accept-Patch' : 'Accept';
  return { headers: { [name]: header('The media types of bodies that are read.') } };
};

const headersOf = (endpoint: ContractEndpoint): JsonSchema => {
  const { deprecated, operation } = endpoint;
  return {
    ...(endpoint.file === undefined
      ? {}
      : { 'Content-Disposition': header('What to call the file where it is kept (RFC 6266).') }),
    ...(isReading(endpoint) && sendsAnything(endpoint)
      ? {
          ETag: header('The entity tag, of responses that are sent as a whole (RFC 9110, section 8.8.3).'),
          'Cache-Control': header('Who may keep the response, and for how long (RFC 9111, section 5.2).'),
          Vary: header('The request headers that the response depends on (RFC 9110, section 12.5.5).'),
        }
      : {}),
    ...linkHeader(endpoint),
    ...(operation === 'create' ? { Location: header('Where the new row is.') } : {}),
    ...(deprecated === undefined || deprecated.since === null
      ? {}
      : { Deprecation: header('Since when it is deprecated (RFC 9745).') }),
    ...(deprecated === undefined || deprecated.sunset === null
      ? {}
      : { Sunset: header('When it may be gone (RFC 8594).') }),
  };
};

/** The statuses of problems, and what each of them means here. */
const problemsOf = (endpoint: ContractEndpoint): Readonly<Record<string, string>> => {
  const { parameters, operation, audiences, returns, rows = [], rule, files } = endpoint;
  const takes = endpoint.takes ?? files;
  const isRuled = rows.some(({ change }) => change !== undefined);
  const whom = audiences === undefined ? [] : [`It answers ${audiences.join(', ')} only.`];
  const forbidden = [
    ...whom,
    ...(isRuled ? [rule ?? 'The row is not yours to change, or would not be.'] : []),
  ];
  const changes = operation === 'replace' || operation === 'amend' || operation === 'remove';
  return {
    400: takes === undefined ? 'The query is wrong.' : 'The query is wrong, or the body cannot be read.',
    ...(forbidden.length === 0 ? {} : { 403: forbidden.join(' ') }),
    ...(parameters.length === 0 ? {} : { 404: 'There is no such row.' }),
    ...(returns === undefined ? {} : { 406: 'No format that the caller accepts is there.' }),
    ...(takes === undefined && operation !== 'remove' ? {} : { 409: 'It does not fit what is stored.' }),
    ...(changes ? { 412: 'The row was changed since it was read.' } : {}),
    ...(endpoint.file === undefined ? {} : { 416: 'The file has no such part.' }),
    ...(takes === undefined
      ? {}
      : {
          413: 'The body is too large.',
          415: 'Bodies of this media type are not read.',
          422: 'Members of the body are wrong; `errors` lists every one.',
        }),
    default: 'Any other failure.',
  };
};

const successStatus = (endpoint: ContractEndpoint): string => {
  if (endpoint.operation === 'create') return '201';
  return sendsAnything(endpoint) ? '200' : '204';
};

const SUCCESS: Readonly<Record<string, string>> = {
  200: 'What was asked for.',
  201: 'It was created.',
  204: 'It was done; there is nothing to send.',
};

/** Parts of a file, where they are asked for (RFC 9110, section 14.2). */
const partial = ({ file }: ContractEndpoint): JsonSchema =>
  file === undefined
    ? {}
    : { 206: { description: 'The part that was asked for.', content: fileContent(file.types) } };

/** The schema of the details of an endpoint's own problem. */
const ownSchema = (own: ContractProblem, problemRef: string, style: SchemaStyle): JsonSchema => {
  const { code, title, type, members = [] } = own;
  const told = inputSchema({ entity: null, members }, style);
  const properties = {
    code: { const: code },
    title: { const: title },
    ...(type === undefined ? {} : { type: { const: type } }),
    ...(told['properties'] as JsonSchema | undefined),
  };
  const required = ['code', ...((told['required'] as readonly string[] | undefined) ?? [])];
  return { allOf: [{ $ref: problemRef }], type: 'object', properties, required };
};

/** The responses of an operation: what it sends, and every problem it may answer with. */
export const operationResponses = (
  endpoint: ContractEndpoint,
  context: BodyContext,
  problemRef: string,
): JsonSchema => {
  const status = successStatus(endpoint);
  const headers = headersOf(endpoint);
  const success = {
    description: SUCCESS[status] ?? '',
    ...(Object.keys(headers).length === 0 ? {} : { headers }),
    ...(endpoint.returns === undefined ? {} : { content: sentContent(endpoint, context) }),
    ...(endpoint.file === undefined ? {} : { content: fileContent(endpoint.file.types) }),
  };
  const style: SchemaStyle = { refTo: context.refTo, closed: false };
  const problem = (code: string, description: string): JsonSchema => {
    const own = (endpoint.problems ?? []).filter((one) => String(one.status) === code);
    const said = own.map(({ code: name, title, about }) => `\`${name}\`: ${about ?? title}`);
    const $ref = problemRef;
    // Other failures of that status have no code of their own.
    const schema: JsonSchema =
      own.length === 0
        ? { $ref }
        : { anyOf: [...own.map((one) => ownSchema(one, problemRef, style)), { $ref }] };
    return {
      description: [description, ...said].filter((part) => part !== '').join(' '),
      ...problemHeaders(code, endpoint),
      content: { 'application/problem+json': { schema } },
    };
  };
  const unchanged: JsonSchema =
    isReading(endpoint) && sendsAnything(endpoint)
      ? { ...partial(endpoint), 304: { description: 'The caller has it already.' } }
      : {};
  const known = problemsOf(endpoint);
  const own = Object.fromEntries(
    (endpoint.problems ?? []).map(({ status: code }) => [code, known[code] ?? '']),
  );
  const problems = Object.entries({ ...own, ...known }).map(([code, words]) => [code, problem(code, words)]);
  return { [status]: success, ...unchanged, ...(Object.fromEntries(problems) as JsonSchema) };
};
