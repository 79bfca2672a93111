import type {
  ContractEndpoint,
  ContractParameter,
  ContractQueryMember,
  ContractValue,
} from '../../contract/contract.js';
import { sayAudiences } from '../../plan/say-audience.js';
import { type JsonSchema, valueSchema } from '../kinds.js';
import type { DescribedFormat } from './described-format.js';

/** Without limits: a filter may be beyond what can be stored. */
const unlimited = (type: ContractValue): ContractValue =>
  type.kind === 'text' || type.kind === 'integer' || type.kind === 'real' || type.kind === 'bigint'
    ? { kind: type.kind }
    : type;

const listOf = (items: JsonSchema): JsonSchema => ({ type: 'array', items });

/** A query parameter; lists have their values in one, with commas. */
const queryParameter = (name: string, description: string, schema: JsonSchema): JsonSchema => ({
  name,
  in: 'query',
  ...(description === '' ? {} : { description }),
  ...(schema['type'] === 'array' ? { style: 'form', explode: false } : {}),
  schema,
});

const FILTER_WORDS: Readonly<Record<NonNullable<ContractParameter['compares']>, string>> = {
  equals: 'Only rows with this value.',
  oneOfThese: 'Only rows with one of these values.',
  atLeast: 'Only rows with this value or one above it.',
  atMost: 'Only rows with this value or one below it.',
  contains: 'Only rows that have this text in them, in upper or lower case.',
  isNull: 'Only rows without a value (true) or with one (false).',
};

const filterParameter = ({ name, type, compares = 'equals', audiences }: ContractParameter): JsonSchema => {
  const schema = valueSchema(unlimited(type), 'request');
  const whom = audiences === undefined ? '' : ` For ${sayAudiences(audiences)} only.`;
  const words = FILTER_WORDS[compares] + whom;
  return queryParameter(name, words, compares === 'oneOfThese' ? listOf(schema) : schema);
};

/** What the query is told: held to its limits, as a body is. */
const toldParameter = ({
  name,
  type,
  about,
  when,
  preset,
  nullable,
  example,
  audiences,
}: ContractQueryMember): JsonSchema => {
  const whom = audiences === undefined ? '' : `For ${sayAudiences(audiences)} only.`;
  const empty = nullable === true ? 'Empty: none.' : '';
  const words = [about ?? '', empty, whom].filter((part) => part !== '').join(' ');
  const schema = {
    ...valueSchema(type, 'request'),
    ...(preset === undefined ? {} : { default: preset }),
    ...(example === undefined ? {} : { examples: [example] }),
  };
  return {
    ...queryParameter(name, words, schema),
    ...(when === undefined && audiences === undefined ? { required: true } : {}),
  };
};

const pageParameters = (page: NonNullable<ContractEndpoint['page']>): readonly JsonSchema[] => {
  const size = queryParameter('size', 'How many rows a page has.', {
    type: 'integer',
    minimum: 1,
    maximum: page.max,
    default: page.size,
  });
  const number = queryParameter('page', 'The page, from 1.', { type: 'integer', minimum: 1, default: 1 });
  const after = queryParameter('after', 'The cursor that the page before gave as its next.', {
    type: 'string',
  });
  return [size, page.by === 'number' ? number : after];
};

const header = (name: string, description: string): JsonSchema => ({
  name,
  in: 'header',
  description,
  schema: { type: 'string' },
});

const isReading = ({ method }: ContractEndpoint): boolean => method === 'GET';

const preconditions = (endpoint: ContractEndpoint): readonly JsonSchema[] => {
  if (isReading(endpoint)) {
    return [header('If-None-Match', 'The entity tags that are known already; 304 where it is one of them.')];
  }
  const changes = ['replace', 'amend', 'remove'].includes(endpoint.operation ?? '');
  return changes
    ? [header('If-Match', 'The entity tag of the row as it is known; 412 where it was changed since.')]
    : [];
};

/** Which formats can be sent by an endpoint. */
export const sentFormats = (
  endpoint: ContractEndpoint,
  formats: readonly DescribedFormat[],
): readonly DescribedFormat[] => {
  const isList = endpoint.returns?.many === true || endpoint.page !== undefined;
  return formats.filter(({ write, onlyLists }) => write !== undefined && (isList || onlyLists !== true));
};

/** The parameters of an operation: of its path, its query and its headers. */
export const operationParameters = (
  endpoint: ContractEndpoint,
  formats: readonly DescribedFormat[],
  formatParameter: boolean,
): readonly JsonSchema[] => {
  const { parameters, filters, query = [], sort, asks, page, returns } = endpoint;
  const path = parameters.map(({ name, type }) => ({
    name,
    in: 'path',
    required: true,
    schema: valueSchema(unlimited(type), 'request'),
  }));
  const orders = sort.flatMap(({ name }) => [name, `${name} desc`]);
  const named = sentFormats(endpoint, formats).map((format) => format.name);
  return [
    ...path,
    ...filters.map(filterParameter),
    ...query.map(toldParameter),
    ...(page === undefined ? [] : pageParameters(page)),
    ...(orders.length === 0
      ? []
      : [queryParameter('sort', 'The order of the rows.', listOf({ type: 'string', enum: orders }))]),
    ...(asks.length === 0
      ? []
      : [queryParameter('with', 'Members to be sent too.', listOf({ type: 'string', enum: asks }))]),
    ...(returns === undefined
      ? []
      : [
          queryParameter(
            'fields',
            'The only members to be sent, as dotted paths.',
            listOf({ type: 'string' }),
          ),
        ]),
    ...(formatParameter && returns !== undefined
      ? [queryParameter('format', 'The format, instead of `Accept`.', { type: 'string', enum: named })]
      : []),
    ...preconditions(endpoint),
  ];
};
