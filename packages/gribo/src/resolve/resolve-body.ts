import { type BodyPlan, contentShape, type ShapePlan } from '../plan/declared.js';
import type { ResolvedBody, ResolvedField, ResolvedNode, ResolvedShape } from '../plan/resolved.js';
import type { Situation } from '../plan/situation.js';
import { freeze } from '../util/freeze.js';
import { pickFields, type UnknownPath } from './pick-fields.js';
import { Resolver } from './resolver.js';

/** A body in one situation, with what the situation asked for in vain. */
export interface Resolution {
  readonly body: ResolvedBody;
  /** Names asked for that nothing here answers to. */
  readonly unknownAsked: readonly string[];
  readonly unknownFields: readonly UnknownPath[];
}

/** Puts another shape in the place of the content's, wherever the envelope nests it. */
const replaceContent = (shape: ResolvedShape, content: ResolvedShape): ResolvedShape => {
  const replaced = (node: ResolvedNode): ResolvedNode => {
    if (node.kind === 'group') return freeze({ ...node, fields: fields(node.fields) });
    return isContent(node) ? freeze({ ...node, shape: content }) : node;
  };
  const fields = (all: readonly ResolvedField[]): readonly ResolvedField[] =>
    freeze(all.map((field) => freeze({ ...field, node: replaced(field.node) })));
  return freeze({ ...shape, fields: fields(shape.fields) });
};

type Nesting = Extract<ResolvedNode, { readonly kind: 'nested' | 'nestedList' }>;

/** Whether a member of an envelope is what it is put around: nothing else is nested there. */
const isContent = (node: ResolvedNode): node is Nesting =>
  node.kind === 'nestedList' || node.kind === 'nested';

const kindOf = (body: BodyPlan): ResolvedBody['kind'] => {
  if (body.kind === 'envelope') return 'envelope';
  return body.kind === 'list' ? 'list' : 'one';
};

/** The shape that is written for each row, or for the envelope. */
const writtenShape = (body: BodyPlan): ShapePlan => (body.kind === 'shape' ? body : body.shape);

/**
 * Settles everything that the situation decides; what is left depends on the rows alone.
 *
 * @param staysOpen whether what may be asked for is kept, under conditions that say so: for
 * descriptions, never for writing
 */
export const resolveBody = (body: BodyPlan, situation: Situation, staysOpen = false): Resolution => {
  const resolver = new Resolver(situation, staysOpen);
  const written = resolver.shape(writtenShape(body));
  const whole = resolver.shape(contentShape(body));
  const asks = freeze([...resolver.asks]);
  const unknownAsked = (situation.asked ?? []).filter((name) => !resolver.asks.has(name));
  const kind = kindOf(body);
  const sort = body.kind === 'envelope' ? (body.page?.sort ?? freeze([])) : freeze([]);
  const { fields } = situation;
  const picked = fields === undefined ? { shape: whole, unknown: [] } : pickFields(whole, fields);
  const content = picked.shape;
  const around = content === whole ? written : replaceContent(written, content);
  const shape = kind === 'envelope' ? around : content;
  return {
    body: freeze({ kind, shape, content, sort, facts: resolver.facts, asks }),
    unknownAsked,
    unknownFields: picked.unknown,
  };
};
