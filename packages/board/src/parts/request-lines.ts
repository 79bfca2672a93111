import type { ContractEndpoint, ContractValue } from 'gribo';
import type { AskedApi } from './ask-api.js';
import { headersOf } from './ask-api.js';
import type { AskedQuery } from './query-state.js';
import { queryFields } from './query-state.js';

/** A text as one word of a POSIX shell. */
const quoted = (text: string): string => `'${text.replaceAll("'", "'\\''")}'`;

/** The request as a line for a shell. */
export const curlLine = (origin: string, asked: AskedApi): string => {
  const { method, path, body } = asked;
  const headers = Object.entries(headersOf(asked)).map(
    ([name, value]) => `-H ${quoted(`${name}: ${value}`)}`,
  );
  const sent =
    body === undefined
      ? []
      : body instanceof FormData
        ? [...body].map(([name, value]) =>
            typeof value === 'string'
              ? `--form-string ${quoted(`${name}=${value}`)}`
              : `-F ${quoted(`${name}=@${value.name};type=${value.type}`)}`,
          )
        : [`--data-binary ${quoted(body.text)}`];
  const way = method === 'GET' ? [] : [`-X ${method}`];
  return ['curl', ...way, ...headers, ...sent, quoted(origin + path)].join(' ');
};

/** A value of a parameter as a program has it. */
const parameterValue = (type: ContractValue, text: string): unknown => {
  if (type.kind === 'bool') return text === 'true';
  const isNumber = type.kind === 'integer' || type.kind === 'real';
  return isNumber && text.trim() !== '' && Number.isFinite(Number(text)) ? Number(text) : text;
};

/** The request as a call of the client that `gribo build` writes. */
export const clientLine = (
  endpoint: ContractEndpoint,
  audience: string | null,
  path: Readonly<Record<string, string>>,
  { values, sort, with: asked, fields }: AskedQuery,
  body: unknown,
): string => {
  const inPath = endpoint.parameters.map(
    ({ name, type }) => [name, parameterValue(type, path[name] ?? '')] as const,
  );
  const known = queryFields(endpoint, audience).flatMap(({ name, type, isSeveral }) => {
    const text = values[name] ?? '';
    if (text === '') return [];
    return [
      [
        name,
        isSeveral ? text.split(',').map((part) => parameterValue(type, part)) : parameterValue(type, text),
      ] as const,
    ];
  });
  const named = Object.entries({ sort, with: asked, fields }).filter(([, names]) => names.length > 0);
  const query = [...known, ...named];
  const given = {
    ...(inPath.length === 0 ? {} : { path: Object.fromEntries(inPath) }),
    ...(query.length === 0 ? {} : { query: Object.fromEntries(query) }),
    ...(body === undefined ? {} : { body }),
  };
  const name = JSON.stringify(endpoint.name);
  return Object.keys(given).length === 0
    ? `await call(${name})`
    : `await call(${name}, ${JSON.stringify(given)})`;
};
