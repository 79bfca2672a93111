import type { BodyPlan } from '../../plan/declared.js';
import { freeze } from '../../util/freeze.js';
import type { Fields, Nested } from '../types/member-types.js';
import type { AnyBody, EntityIn, EnvelopeBody, ListBody, ModelIn, ShapeOf } from '../types/shape-types.js';
import { declareEnvelope, type EnvelopeInfo } from './envelope.js';

/** What stands for a body inside the literal: an object, or an array. */
type ContentOf<B> =
  B extends ListBody<infer F>
    ? Nested<F, 'many'>
    : B extends EnvelopeBody<infer W>
      ? W extends { readonly items: infer Items }
        ? Items
        : never
      : B extends ShapeOf<infer F>
        ? Nested<F, 'one'>
        : never;

const nameOf = (plan: BodyPlan): string => (plan.kind === 'shape' ? plan.name : plan.shape.name);

/**
 * Puts an envelope around a body, in the same literal style as a shape.
 *
 * @param body a shape, `list(shape)` or `page(shape)`; of a page, the rows and its settings are kept
 * @param declare given the content and what is known about it, returns the literal
 * @throws {DeclarationError} `DECLARATION` listing everything in the literal that is no member
 * @example
 * wrap(list(VesselCard), (content, info) => ({ data: content, meta: { total: info.total } }))
 */
export const wrap = <B extends AnyBody, const W extends Fields>(
  body: B,
  declare: (content: ContentOf<B>, info: EnvelopeInfo) => W,
): EnvelopeBody<W, ModelIn<B>, EntityIn<B>> => {
  const { plan } = body;
  const content = plan.kind === 'envelope' ? plan.content : plan;
  const page = plan.kind === 'envelope' ? plan.page : null;
  const name = `wrap(${nameOf(plan)})`;
  const untyped = declare as unknown as (content: never, info: EnvelopeInfo) => unknown;
  // The phantom that carries the members exists for the compiler only.
  return freeze({ plan: declareEnvelope(name, content, page, untyped) }) as EnvelopeBody<
    W,
    ModelIn<B>,
    EntityIn<B>
  >;
};
