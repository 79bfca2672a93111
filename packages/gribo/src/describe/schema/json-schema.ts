import { InputCatalog } from '../../contract/make/input-catalog.js';
import { ShapeCatalog } from '../../contract/make/shape-catalog.js';
import type { Takable } from '../../declare/types/input-types.js';
import type { AnyBody } from '../../declare/types/shape-types.js';
import type { BodyPlan } from '../../plan/declared.js';
import type { InputListPlan, InputPlan } from '../../plan/input-plan.js';
import type { Situation } from '../../plan/situation.js';
import { resolve } from '../../resolve/resolve.js';
import { resolveBody } from '../../resolve/resolve-body.js';
import { settledInput } from '../../resolve/settle-input.js';
import { freeze } from '../../util/freeze.js';
import type { JsonSchema } from '../kinds.js';
import { inputSchema, type SchemaStyle, shapeSchema } from './shape-schema.js';

const DRAFT = 'https://json-schema.org/draft/2020-12/schema';

export interface JsonSchemaOptions {
  /** Whether a response may have no member but those of the schema: for tests. Default: false. */
  readonly closed?: boolean;
}

const styleOf = ({ closed = false }: JsonSchemaOptions): SchemaStyle => ({
  refTo: (name) => `#/$defs/${name}`,
  closed,
});

const mapped = <T>(all: Readonly<Record<string, T>>, make: (item: T) => JsonSchema): JsonSchema =>
  Object.fromEntries(Object.entries(all).map(([name, item]) => [name, make(item)]));

const ofInput = (
  input: InputPlan,
  audience: string | null,
  isMany: boolean,
  style: SchemaStyle,
): JsonSchema => {
  const catalog = new InputCatalog();
  const $ref = style.refTo(catalog.nameOf(settledInput(input, audience), audience));
  const $defs = mapped(Object.fromEntries(catalog.inputs), (input) => inputSchema(input, style));
  return isMany ? { $schema: DRAFT, type: 'array', items: { $ref }, $defs } : { $schema: DRAFT, $ref, $defs };
};

const isInputList = (plan: BodyPlan | InputListPlan): plan is InputListPlan =>
  plan.kind === 'list' && plan.shape.kind === 'input';

/** What was asked is settled; where nothing is said of it, all that can be asked for is described. */
const resolvedFor = (plan: BodyPlan, situation: Situation) =>
  situation.asked === undefined && situation.fields === undefined
    ? resolveBody(plan, situation, true).body
    : resolve({ plan }, situation);

const ofBody = (plan: BodyPlan, situation: Situation, style: SchemaStyle): JsonSchema => {
  const catalog = new ShapeCatalog();
  const page = plan.kind === 'envelope' ? plan.page : null;
  const place = { endpoint: situation.endpoint ?? '', audience: situation.audience ?? null, page };
  const $ref = style.refTo(catalog.nameOf(resolvedFor(plan, situation).shape, place));
  const $defs = mapped(catalog.shapes(), (shape) => shapeSchema(shape, style));
  return plan.kind === 'list'
    ? { $schema: DRAFT, type: 'array', items: { $ref }, $defs }
    : { $schema: DRAFT, $ref, $defs };
};

/**
 * The JSON Schema (draft 2020-12) of what a body sends, or of what an input takes: with limits,
 * formats, nulls, descriptions, examples and deprecations. Nested shapes are definitions under
 * their own names.
 *
 * @param of a body, an input, or `list(input)`
 * @param situation the audience, and of a body the endpoint. Without `asked`, members that have to be
 * asked for are described too, as members that may be missing
 * @param options `closed`: whether a response may have no other members
 * @returns the schema, plain JSON
 * @throws {RequestError} `REQUEST` where `asked` or `fields` name what is not there
 * @example
 * jsonSchema(VesselCard).$ref // => #/$defs/vessel
 */
export const jsonSchema = (
  of: AnyBody | Takable,
  situation: Situation = {},
  options: JsonSchemaOptions = {},
): JsonSchema => {
  const plan: BodyPlan | InputPlan | InputListPlan = of.plan;
  const style = styleOf(options);
  const { audience = null } = situation;
  if (plan.kind === 'input') return freeze(ofInput(plan, audience, false, style));
  if (isInputList(plan)) return freeze(ofInput(plan.shape, audience, true, style));
  return freeze(ofBody(plan, situation, style));
};
