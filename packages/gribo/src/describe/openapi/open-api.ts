import { contractOf } from '../../contract/make/contract-of.js';
import { RequestError } from '../../errors/request-error.js';
import type { ApiPlan } from '../../plan/api-plan.js';
import { examplesOf } from '../../sample/examples-of.js';
import type { MemoryStore } from '../../store/memory-store.js';
import { freeze } from '../../util/freeze.js';
import { didYouMean } from '../../util/nearest.js';
import type { JsonSchema } from '../kinds.js';
import { contractFor, type DocumentOptions, openApiDocument } from './open-api-document.js';

export interface OpenApiOptions extends DocumentOptions {
  /**
   * Describe what this audience sees and nothing else: a document that can be given to it. `null`:
   * callers of no audience. Left out: what each audience sees, side by side.
   */
  readonly audience?: string | null;
  /** Rows to write examples from: `memoryStore(db, samples(db))`. Left out: no examples. */
  readonly examples?: MemoryStore;
}

const checkAudience = (audience: string | null | undefined, { audiences }: ApiPlan): void => {
  if (audience == null || audiences.includes(audience)) return;
  const message = `There is no audience "${audience}".${didYouMean(audience, audiences)}`;
  throw new RequestError([{ parameter: 'audience', code: 'unknown', value: audience, message }]);
};

/**
 * The OpenAPI document (3.1 or 3.2) of an API: every operation with its parameters, what it takes and sends in
 * every format, problems, headers for pages and caches, and examples with exactly the members of each
 * operation.
 *
 * Where audiences see different members, the response is `anyOf` one schema for each group of them,
 * which says whom it is for in `description` and in `x-audiences`.
 *
 * @param api the API
 * @param options `specification`, `formats`, `audience`, `examples`, `formatParameter`, `info`, `servers`,
 * `securitySchemes`, `security`
 * @returns the document, plain JSON
 * @throws {RequestError} `REQUEST` where the API has no such audience
 * @example
 * openApi(harbour, { audience: 'public' })['openapi'] // => '3.1.0'
 */
export const openApi = (api: { readonly plan: ApiPlan }, options: OpenApiOptions = {}): JsonSchema => {
  const { audience, examples: rows } = options;
  checkAudience(audience, api.plan);
  const whole = contractOf(api);
  const contract = audience === undefined ? whole : contractFor(whole, audience);
  const examples = rows === undefined ? {} : examplesOf(api.plan, rows);
  return freeze(openApiDocument(contract, options, examples));
};
