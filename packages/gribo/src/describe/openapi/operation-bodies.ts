import type {
  Contract,
  ContractEndpoint,
  ContractInputMember,
  ContractMember,
  ContractTaken,
  ContractVariant,
} from '../../contract/contract.js';
import { plainName } from '../../contract/make/shape-catalog.js';
import type { EndpointExamples } from '../../sample/examples-of.js';
import { type JsonSchema, valueSchema } from '../kinds.js';
import { namesReference } from '../names-reference.js';
import { orNull } from '../schema/shape-schema.js';
import type { DescribedFormat } from './described-format.js';
import { sentFormats } from './operation-parameters.js';

/** The version of OpenAPI that a document is of. */
export type Specification = '3.1' | '3.2';

/** What the bodies of one document are made from. */
export interface BodyContext {
  readonly specification: Specification;
  readonly contract: Contract;
  readonly formats: readonly DescribedFormat[];
  readonly refTo: (name: string) => string;
  readonly examples: Readonly<Record<string, EndpointExamples>>;
}

const audienceText = (audiences: ContractVariant['audiences']): string => {
  const names = audiences.flatMap((name) => (name === null ? [] : [name]));
  if (!audiences.includes(null)) return `For ${names.join(', ')}.`;
  return names.length === 0 ? 'For callers of no audience.' : `For ${names.join(', ')} and everybody else.`;
};

/** What a schema says of those whom it is for. */
const whomOf = (audiences: ContractVariant['audiences']): JsonSchema => ({
  description: audienceText(audiences),
  'x-audiences': audiences.filter((name) => name !== null),
});

/** The name of an example. */
const labelOf = (audiences: ContractVariant['audiences']): string =>
  audiences.find((audience) => audience !== null) ?? 'everybody';

const variantSchema = (many: boolean, shape: string, { refTo }: BodyContext): JsonSchema => {
  const $ref = refTo(shape);
  return many ? { type: 'array', items: { $ref } } : { $ref };
};

/** A name that no shape and no input has: an endpoint may be called as a shape is. */
export const freeName = (wanted: string, { shapes, inputs }: Contract): string => {
  let name = wanted;
  while (name in shapes || name in inputs) name += '.sent';
  return name;
};

/** The name of the schema that joins what the audiences of an endpoint see. */
const joinedName = ({ name }: ContractEndpoint, { contract }: BodyContext): string =>
  freeName(plainName(name), contract);

/** What an endpoint sends where audiences see different members: one schema for each group of them. */
export const joinedSchema = (
  endpoint: ContractEndpoint,
  context: BodyContext,
): readonly (readonly [string, JsonSchema])[] => {
  const { many = false, variants = [] } = endpoint.returns ?? {};
  if (variants.length < 2) return [];
  const anyOf = variants.map(({ audiences, shape }) => ({
    ...variantSchema(many, shape, context),
    ...whomOf(audiences),
  }));
  return [[joinedName(endpoint, context), { anyOf }]];
};

const sentSchema = (endpoint: ContractEndpoint, context: BodyContext): JsonSchema => {
  const { many = false, variants = [] } = endpoint.returns ?? {};
  const [only] = variants;
  return only !== undefined && variants.length === 1
    ? variantSchema(many, only.shape, context)
    : { $ref: context.refTo(joinedName(endpoint, context)) };
};

/** The dotted names of a table whose rows are of a shape. */
const flatNames = (contract: Contract, members: readonly ContractMember[], above = ''): readonly string[] =>
  members.flatMap(({ name, type }) => {
    const path = above + name;
    if (type.kind === 'group') return flatNames(contract, type.members, `${path}.`);
    if (type.kind === 'object')
      return flatNames(contract, contract.shapes[type.of]?.members ?? [], `${path}.`);
    return [path];
  });

/** The name of the shape of the rows in a body: of a page, what is in its list. */
const rowShape = (contract: Contract, shape: string): string => {
  const found = contract.shapes[shape];
  if (found === undefined || found.entity !== null) return shape;
  const content = (members: readonly ContractMember[]): string | undefined => {
    for (const { type } of members) {
      if (type.kind === 'list' || type.kind === 'object') return type.of;
      const inside = type.kind === 'group' ? content(type.members) : undefined;
      if (inside !== undefined) return inside;
    }
    return undefined;
  };
  const inside = content(found.members);
  return inside === undefined ? shape : rowShape(contract, inside);
};

const rowMembers = (contract: Contract, shape: string): readonly ContractMember[] => {
  const found = contract.shapes[rowShape(contract, shape)];
  return found === undefined || found.entity === null ? [] : found.members;
};

/** Formats that hold rows only are text to JSON Schema: their columns are told in words. */
const rowsText = (
  format: DescribedFormat,
  { returns }: ContractEndpoint,
  { contract }: BodyContext,
): JsonSchema => {
  const variants = returns?.variants ?? [];
  const names = new Set(variants.flatMap(({ shape }) => flatNames(contract, rowMembers(contract, shape))));
  const description =
    format.isFlat === true ? `One line for each row, with the columns ${[...names].join(', ')}.` : null;
  return { type: 'string', description: description ?? 'One line for each row, as in the JSON list.' };
};

/** What one row of a list is, of whatever the audiences see. */
const rowSchema = ({ returns }: ContractEndpoint, { contract, refTo }: BodyContext): JsonSchema => {
  const shapes = (returns?.variants ?? []).map(({ shape }) => rowShape(contract, shape));
  const [first, ...others] = [...new Set(shapes)].map((shape): JsonSchema => ({ $ref: refTo(shape) }));
  return others.length === 0 ? (first ?? {}) : { anyOf: [first ?? {}, ...others] };
};

/** A list as lines: text, and since 3.2 what each of them is (`itemSchema`), where a line is JSON. */
const linesSchema = (
  format: DescribedFormat,
  endpoint: ContractEndpoint,
  context: BodyContext,
): JsonSchema => {
  const isJson = format.isFlat !== true && format.mediaTypes.some((type) => /json/.test(type));
  return context.specification === '3.2' && isJson
    ? { itemSchema: rowSchema(endpoint, context) }
    : { schema: rowsText(format, endpoint, context) };
};

const sentExamples = (
  { name, returns }: ContractEndpoint,
  { examples }: BodyContext,
): { readonly examples?: JsonSchema } => {
  const sent = examples[name]?.sent;
  const found = (returns?.variants ?? []).flatMap(({ audiences }) => {
    const [whom = null] = audiences;
    const value = sent?.get(whom);
    return value === undefined || namesReference(value)
      ? []
      : [[labelOf(audiences), { summary: audienceText(audiences), value }] as const];
  });
  return found.length === 0 ? {} : { examples: Object.fromEntries(found) };
};

/** What is sent, by media type. */
export const sentContent = (endpoint: ContractEndpoint, context: BodyContext): JsonSchema => {
  const schema = sentSchema(endpoint, context);
  const types = sentFormats(endpoint, context.formats).map((format) => {
    const [type = format.name] = format.mediaTypes;
    if (format.onlyLists === true) return [type, linesSchema(format, endpoint, context)];
    return [type, { schema, ...(type.endsWith('json') ? sentExamples(endpoint, context) : {}) }];
  });
  return Object.fromEntries(types) as JsonSchema;
};

/** The fields of a form: dotted names, and JSON text for lists. */
const formProperties = (
  members: readonly ContractInputMember[],
  contract: Contract,
  above = '',
): readonly (readonly [string, JsonSchema])[] =>
  members.flatMap(({ name, type, nullable }) => {
    const path = above + name;
    switch (type.kind) {
      case 'group':
        return formProperties(type.members, contract, `${path}.`);
      case 'object':
        return formProperties(contract.inputs[type.of]?.members ?? [], contract, `${path}.`);
      case 'list':
        return [[path, { type: 'string', description: 'JSON text.' }] as const];
      case 'constant':
        return [[path, { const: type.value }] as const];
      default: {
        const schema = valueSchema(type, 'request');
        return [[path, nullable === true ? orNull(schema) : schema] as const];
      }
    }
  });

/** Schemas of which one is for each audience. */
const forAudiences = (
  taken: readonly ContractTaken[],
  schemaOf: (input: string) => JsonSchema,
): JsonSchema => {
  const [only, ...others] = taken;
  if (only !== undefined && others.length === 0) return schemaOf(only.input);
  return {
    anyOf: taken.map(({ audiences, input }) => ({ ...schemaOf(input), ...whomOf(audiences) })),
  };
};

/** What is taken by the many, by media type: an array, or a line for each row. */
const takenRows = (
  taken: readonly ContractTaken[],
  format: DescribedFormat,
  { refTo, specification }: BodyContext,
): JsonSchema => {
  const row = forAudiences(taken, (input) => ({ $ref: refTo(input) }));
  if (format.onlyLists !== true) return { schema: { type: 'array', items: row } };
  if (format.isFlat === true) {
    const description =
      'A line with the names of the members, then one for each row: dotted names for groups.';
    return { schema: { type: 'string', description } };
  }
  return specification === '3.2'
    ? { itemSchema: row }
    : {
        schema: { type: 'string', description: 'One line for each row, each as an item of the JSON array.' },
      };
};

const takenOne = (
  taken: readonly ContractTaken[],
  format: DescribedFormat,
  { contract, refTo }: BodyContext,
): JsonSchema => {
  const form = (input: string): JsonSchema => {
    const members = contract.inputs[input]?.members ?? [];
    return { type: 'object', properties: Object.fromEntries(formProperties(members, contract)) };
  };
  const schemaOf = format.isFlat === true ? form : (input: string) => ({ $ref: refTo(input) });
  return { schema: forAudiences(taken, schemaOf) };
};

const takenExamples = (
  { name }: ContractEndpoint,
  taken: readonly ContractTaken[],
  { examples }: BodyContext,
): { readonly example?: unknown; readonly examples?: JsonSchema } => {
  const found = taken.flatMap(({ audiences }) => {
    const [whom = null] = audiences;
    const value = examples[name]?.taken.get(whom);
    return value === undefined || namesReference(value) ? [] : [{ audiences, value }];
  });
  const [only] = found;
  if (only === undefined) return {};
  if (taken.length === 1) return { example: only.value };
  const named = found.map(({ audiences, value }) => [
    labelOf(audiences),
    { summary: audienceText(audiences), value },
  ]);
  return { examples: Object.fromEntries(named) };
};

/** What is taken, by media type. */
export const takenContent = (endpoint: ContractEndpoint, context: BodyContext): JsonSchema => {
  const takesMany = endpoint.takesMany === true;
  const { takes = [] } = endpoint;
  const examples = takenExamples(endpoint, takes, context);
  const content = context.formats.flatMap((format) => {
    if ((takesMany ? format.readRows : format.read) === undefined) return [];
    return [...format.mediaTypes, ...(takesMany ? [] : (format.alsoReads ?? []))].map((type) => {
      const shown = format.onlyLists !== true && type.endsWith('json') ? examples : {};
      const media = takesMany ? takenRows(takes, format, context) : takenOne(takes, format, context);
      return [type, { ...media, ...shown }] as const;
    });
  });
  return Object.fromEntries(content) as JsonSchema;
};
