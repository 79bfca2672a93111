import { RequestError, type RequestIssue } from '../errors/request-error.js';
import type { BodyPlan } from '../plan/declared.js';
import type { ResolvedBody } from '../plan/resolved.js';
import type { Situation } from '../plan/situation.js';
import { describeValue } from '../util/describe-value.js';
import { freeze } from '../util/freeze.js';
import { didYouMean } from '../util/nearest.js';
import { keptSituations } from './kept-situations.js';
import { resolveBody } from './resolve-body.js';

const kept = keptSituations<ResolvedBody>();

/** The same text for situations that differ in the order of what was asked only. */
export const situationKey = ({ endpoint, audience, edition, asked, fields }: Situation): string => {
  // Most requests ask for nothing, and need no JSON, which begins with a bracket. The length says where the audience ends.
  if ((asked ?? fields ?? edition) === undefined)
    return `${audience == null ? '-' : `${audience.length} ${audience}`}${endpoint === undefined ? '' : ` ${endpoint}`}`;
  return JSON.stringify([
    endpoint,
    // JSON has null for what is left out.
    audience,
    edition,
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
export const resolve = (body: { readonly plan: BodyPlan }, situation: Situation = {}): ResolvedBody =>
  kept(body.plan).get(situationKey(situation), () => resolved(body.plan, situation));

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
