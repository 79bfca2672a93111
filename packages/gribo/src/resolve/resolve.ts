import { RequestError, type RequestIssue } from '../errors/request-error.js';
import type { BodyPlan } from '../plan/declared.js';
import type { ResolvedBody } from '../plan/resolved.js';
import type { Situation } from '../plan/situation.js';
import { BoundedCache } from '../util/bounded-cache.js';
import { describeValue } from '../util/describe-value.js';
import { freeze } from '../util/freeze.js';
import { didYouMean } from '../util/nearest.js';
import { resolveBody } from './resolve-body.js';

/** The most situations that are kept for one body. A caller chooses `asked` and `fields`. */
export const KEPT_SITUATIONS = 64;

const kept = new WeakMap<BodyPlan, BoundedCache<ResolvedBody>>();

/** The same text for situations that differ in the order of what was asked only. */
export const situationKey = ({ endpoint, audience, asked, fields }: Situation): string => {
  // Most requests ask for nothing; no array as JSON begins with a space.
  if (asked === undefined && fields === undefined) return ` ${audience ?? ''} ${endpoint ?? ''}`;
  return JSON.stringify([
    endpoint,
    audience ?? null,
    [...new Set(asked)].sort(),
    fields && [...new Set(fields)].sort(),
  ]);
};

const unknown = (parameter: string, value: string, what: string, known: readonly string[]): RequestIssue => {
  const close = didYouMean(value.slice(value.lastIndexOf('.') + 1), known);
  const all = known.length === 0 ? '' : ` There are: ${known.slice(0, 12).join(', ')}.`;
  return freeze({ parameter, code: 'unknown', value, message: `${what}${close === '' ? all : close}` });
};

/**
 * A body in one situation: what the endpoint, the audience and the caller decide is settled, so
 * that only the rows are left to decide. Results are kept for the situations used last.
 *
 * @param body a shape, `list(shape)`, `page(shape)` or one of these wrapped
 * @param situation whom and what it is for
 * @returns plain frozen data, the same object for the same situation
 * @throws {RequestError} `REQUEST` where the caller asked for a name or field that is not there,
 * or not for this audience; it lists every one
 * @example
 * resolve(VesselCard, { audience: 'agent' }).shape.fields.map((field) => field.name)
 */
export const resolve = (body: { readonly plan: BodyPlan }, situation: Situation = {}): ResolvedBody => {
  let cache = kept.get(body.plan);
  if (cache === undefined) {
    cache = new BoundedCache(KEPT_SITUATIONS);
    kept.set(body.plan, cache);
  }
  return cache.get(situationKey(situation), () => resolved(body.plan, situation));
};

const resolved = (plan: BodyPlan, situation: Situation): ResolvedBody => {
  const { body, unknownAsked, unknownFields } = resolveBody(plan, situation);
  const issues = [
    ...unknownAsked.map((name) =>
      unknown('with', name, `There is nothing called ${describeValue(name)} to ask for.`, body.asks),
    ),
    ...unknownFields.map(({ path, known }) =>
      unknown('fields', path, `There is no member ${describeValue(path)}.`, known),
    ),
  ];
  if (issues.length > 0) throw new RequestError(issues);
  return body;
};
