import type {
  ContractInput,
  ContractInputMember,
  ContractMember,
  ContractShape,
  ContractType,
} from '../../contract/contract.js';
import type { JsonValue } from '../../plan/condition.js';
import { type Direction, type JsonSchema, valueSchema } from '../kinds.js';
import { namesReference } from '../names-reference.js';

/** How schemas of one document are written. */
export interface SchemaStyle {
  /** Where a definition is: `#/$defs/VesselCard`. */
  readonly refTo: (name: string) => string;
  /** Whether responses may have no member but those that are named. */
  readonly closed: boolean;
}

/** The same schema, null too. */
export const orNull = (schema: JsonSchema): JsonSchema => {
  const { type, enum: choices, ...rest } = schema;
  if ('const' in schema) return { anyOf: [schema, { type: 'null' }] };
  if (typeof type === 'string') {
    const more: JsonSchema = Array.isArray(choices)
      ? { enum: [...(choices as readonly JsonValue[]), null] }
      : {};
    return { type: [type, 'null'], ...more, ...rest };
  }
  return Object.keys(schema).length === 0 ? schema : { anyOf: [schema, { type: 'null' }] };
};

const sentences = (...parts: readonly (string | null | undefined)[]): JsonSchema => {
  const said = parts.filter((part) => typeof part === 'string' && part !== '');
  return said.length === 0 ? {} : { description: said.join(' ') };
};

/** For which rows a member is there. */
const whereWords = ({ where }: ContractMember): string | null => {
  if (where === undefined) return null;
  return where.untold === true ? 'Only for some rows.' : `Only for rows where ${where.says}.`;
};

const askedWords = ({ when, asks = [] }: ContractMember): string | null => {
  const names = asks.map((name) => `\`${name}\``).join(', ');
  if (when === 'asked') return `Only where ${names} is asked for.`;
  return asks.length === 0 ? null : `Asking for ${names} makes a difference.`;
};

const noticeWords = ({ deprecated }: ContractMember): string | null => {
  if (deprecated === undefined) return null;
  const { since, sunset, instead } = deprecated;
  const parts = [
    since === null ? '' : ` since ${since}`,
    sunset === null ? '' : `, may be gone after ${sunset}`,
    instead === null ? '' : `; use ${instead} instead`,
  ];
  return `Deprecated${parts.join('')}.`;
};

type AnyMember = ContractMember | ContractInputMember;

/** Makes the schemas of members in one style and direction. */
class MemberSchemas {
  readonly #style: SchemaStyle;
  readonly #direction: Direction;

  constructor(style: SchemaStyle, direction: Direction) {
    this.#style = style;
    this.#direction = direction;
  }

  /** @param requires whether a member has to be there */
  object<M extends AnyMember>(members: readonly M[], requires: (member: M) => boolean): JsonSchema {
    const required = members.filter(requires).map(({ name }) => name);
    const properties = members.map((member) => [member.name, this.#member(member, requires)]);
    return {
      type: 'object',
      properties: Object.fromEntries(properties) as Record<string, JsonSchema>,
      ...(required.length === 0 ? {} : { required }),
      ...this.#closing(),
    };
  }

  #closing(): JsonSchema {
    if (this.#direction === 'request') return { additionalProperties: false };
    return this.#style.closed ? { unevaluatedProperties: false } : {};
  }

  #member<M extends AnyMember>(member: M, requires: (member: M) => boolean): JsonSchema {
    const { nullable, about, example, type } = member;
    const plain = this.#type(type as ContractType<M>, requires);
    const { description, ...schema } = nullable === true ? orNull(plain) : plain;
    const words =
      this.#direction === 'response'
        ? [
            whereWords(member as ContractMember),
            askedWords(member as ContractMember),
            noticeWords(member as ContractMember),
          ]
        : [];
    return {
      ...schema,
      ...sentences(about, description as string | undefined, ...words),
      ...('deprecated' in member ? { deprecated: true } : {}),
      ...('preset' in member && member.preset !== undefined && !namesReference(member.preset)
        ? { default: member.preset }
        : {}),
      ...(example === undefined || namesReference(example) ? {} : { examples: [example] }),
    };
  }

  #type<M extends AnyMember>(type: ContractType<M>, requires: (member: M) => boolean): JsonSchema {
    switch (type.kind) {
      case 'constant':
        return { const: type.value };
      case 'group':
        return this.object(type.members, requires);
      case 'object':
        return { $ref: this.#style.refTo(type.of) };
      case 'list':
        return {
          type: 'array',
          items: { $ref: this.#style.refTo(type.of) },
          ...(type.least === undefined ? {} : { minItems: type.least }),
          ...(type.limit === undefined ? {} : { maxItems: type.limit }),
          ...(type.where === undefined || type.where.untold === true
            ? {}
            : { description: `Rows where ${type.where.says}.` }),
        };
      default:
        return valueSchema(type, this.#direction);
    }
  }
}

/** The schema of what a shape sends. */
export const shapeSchema = (shape: ContractShape, style: SchemaStyle): JsonSchema => ({
  ...sentences(shape.about),
  ...new MemberSchemas(style, 'response').object(shape.members, ({ when }) => when === undefined),
});

/** The schema of what an input takes. */
export const inputSchema = (input: ContractInput, style: SchemaStyle): JsonSchema => {
  const patch = input.amends === true ? 'A merge patch (RFC 7396): what is left out stays as it is.' : null;
  const fixed = input.fixed === undefined ? null : `Set once, when created: ${input.fixed.join(', ')}.`;
  return {
    ...sentences(input.about, patch, fixed),
    ...new MemberSchemas(style, 'request').object(input.members, ({ when }) => when === undefined),
  };
};
