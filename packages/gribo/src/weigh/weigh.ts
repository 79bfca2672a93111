import type { AnyBody } from '../declare/types/shape-types.js';
import type { SituationFor } from '../declare/types/situation-types.js';
import type { JsonValue } from '../plan/condition.js';
import type { Situation } from '../plan/situation.js';
import type { GivenFacts } from '../values/facts-for.js';
import { type RowsOf, writer } from '../write/writer.js';
import { type Weight, weighValue } from './weigh-value.js';

/**
 * What each member of a response weighs: how many bytes of JSON are its own.
 *
 * @param body a shape, `list(shape)`, `page(shape)` or one of these wrapped
 * @param data what it is written from, as for `writer`
 * @param situation as for `writer`
 * @param given the facts about the caller, as for the writer's functions
 * @returns the weight of the whole response, with those of its members inside; brackets and commas
 * belong to what they are around
 * @throws {RowError} as a writer does
 * @example
 * weigh(list(VesselCard), vessels).bytes // => 2
 */
export const weigh = <
  B extends AnyBody,
  const A extends string | null,
  const E extends string,
  const N extends string,
  const P extends string,
>(
  body: B,
  data: RowsOf<B>,
  situation: SituationFor<B, A, E, N, P> = {},
  given: GivenFacts = {},
): Weight =>
  // What a writer makes is JSON-ready: that is its law.
  weighValue(
    body.plan.kind === 'list' ? '[]' : '',
    writer(body, situation as Situation).object(data, given) as JsonValue,
  );
