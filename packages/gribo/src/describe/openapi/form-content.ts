import type { ContractEndpoint, ContractFile } from '../../contract/contract.js';
import type { JsonSchema } from '../kinds.js';
import type { BodyContext } from './operation-bodies.js';

const fileSchema = ({ about, max }: ContractFile): JsonSchema => ({
  type: 'string',
  contentMediaType: 'application/octet-stream',
  description: `${about === undefined ? '' : `${about} `}At most ${max} bytes.`,
});

const filesSchema = (files: readonly ContractFile[]): JsonSchema => {
  const required = files.filter(({ optional }) => optional !== true).map(({ name }) => name);
  return {
    type: 'object',
    properties: Object.fromEntries(files.map((file) => [file.name, fileSchema(file)])),
    ...(required.length === 0 ? {} : { required }),
  };
};

/** A form of the files, and of what is told with them. */
const formSchema = (
  { takes = [] }: ContractEndpoint,
  files: JsonSchema,
  { refTo }: BodyContext,
): JsonSchema => {
  const told = takes.map(({ input }): JsonSchema => ({ $ref: refTo(input) }));
  const [only] = told;
  if (only === undefined) return files;
  return { allOf: [told.length === 1 ? only : { anyOf: told }, files] };
};

/**
 * What is taken where there are files: a form. That one file alone may be the body itself is said in words: generators of clients
 * make code of a form or of bytes, and none that compiles of both.
 */
export const formBody = (
  endpoint: ContractEndpoint,
  files: readonly ContractFile[],
  context: BodyContext,
): JsonSchema => {
  const encoding = files.map(
    ({ name, types = ['*/*'] }) => [name, { contentType: types.join(', ') }] as const,
  );
  const [only, ...others] = files;
  const isBody = only !== undefined && others.length === 0 && endpoint.takes === undefined;
  return {
    ...(isBody
      ? {
          description: `Or the file alone as the body, as ${(only.types ?? ['any media type']).join(' or ')}.`,
        }
      : {}),
    required: true,
    content: {
      'multipart/form-data': {
        schema: formSchema(endpoint, filesSchema(files), context),
        encoding: Object.fromEntries(encoding),
      },
    },
  };
};
