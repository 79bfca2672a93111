import { AssertionError } from 'node:assert';
import type { ErrorObject, ValidateFunction } from 'ajv/dist/2020.js';
import {
  type AnyApi,
  type AudienceIn,
  type EditionIn,
  jsonSchema,
  type NameIn,
  ofEdition,
  type ResponseOf,
  resolve,
  type Situation,
  situationOf,
} from 'gribo';
import { answers, type BodyPlan, type EndpointPlan } from 'gribo/kit';
import { compareAnswer } from './compare-answer.js';
import { misused } from './misused.js';
import { sayAnswer } from './say-answer.js';
import { validatorOf } from './validator.js';
import { isObject } from './value-kind.js';

/** Whom an answer was for, and what was asked. */
export interface AnswerFor<A extends string = string, Ed extends string = string> {
  /** The audience; null, as where it is left out: a caller of none. */
  readonly audience?: A | null;
  /** The edition that it was asked in. Default: the newest. */
  readonly edition?: Ed;
  /** What was asked for with `?with=`. Default: nothing. */
  readonly asked?: readonly string[];
  /** What was chosen with `?fields=`. Default: everything. */
  readonly fields?: readonly string[];
}

/** Validators by endpoint, then by what was asked: each is made once. */
const validators = new WeakMap<EndpointPlan, Map<string, ValidateFunction>>();

const validatorAt = (endpoint: EndpointPlan, plan: BodyPlan, situation: Situation): ValidateFunction => {
  const all = validators.get(endpoint) ?? new Map<string, ValidateFunction>();
  validators.set(endpoint, all);
  const key = JSON.stringify([situation.audience, situation.asked, situation.fields]);
  const known = all.get(key);
  if (known !== undefined) return known;
  const body = { plan } as Parameters<typeof jsonSchema>[0];
  const made = validatorOf(jsonSchema(body, situation, { closed: true }));
  all.set(key, made);
  return made;
};

/** What is wrong, beside what is declared; where the walk finds nothing, in the validator's own words. */
const sayWrong = (
  plan: BodyPlan,
  situation: Situation,
  body: unknown,
  wrongs: readonly ErrorObject[],
): string => {
  const byPlace = new Map(wrongs.map(({ instancePath, message = 'is wrong' }) => [instancePath, message]));
  const lines = compareAnswer(resolve({ plan }, situation), body, byPlace);
  return lines.some(({ mark }) => mark !== 'right')
    ? sayAnswer(lines)
    : wrongs.map(({ instancePath, message }) => `! ${instancePath} ${message}`).join('\n');
};

/** What a problem says of itself, where one came in the place of the answer (RFC 9457, section 3.1). */
const problemIn = (body: unknown): string | null => {
  if (!isObject(body) || typeof body['title'] !== 'string' || typeof body['status'] !== 'number') return null;
  const { status, title, detail } = body;
  return `It is a problem: ${status} ${title}${typeof detail === 'string' ? `. ${detail}` : ''}`;
};

/**
 * Fails where an answer is not exactly what its endpoint sends: a member that is missing, one that is there and is not
 * declared for this audience, a value of another type. Afterwards the answer has its type.
 *
 * @param api the API
 * @param name the endpoint, by its full name
 * @param body the answer as parsed JSON: `await response.json()`
 * @param to whom it was for: `audience`, in which `edition`, and what was asked with `asked` and `fields`
 * @throws {AssertionError} with a line for each member, what came beside what is declared
 * @throws {GriboError} `MISUSE` where the endpoint sends no JSON, or does not answer that audience, or a response itself is given
 * @example
 * assertAnswer(harbour, 'vessels.read', await response.json(), { audience: 'agent' });
 */
export function assertAnswer<
  const P extends AnyApi,
  const N extends NameIn<P>,
  const A extends AudienceIn<P> = AudienceIn<P>,
  const Ed extends EditionIn<P> = never,
>(api: P, name: N, body: unknown, to: AnswerFor<A, Ed> = {}): asserts body is ResponseOf<P, N, A, Ed> {
  const { audience = null, edition, asked = [], fields } = to;
  const declared: AnyApi = edition === undefined ? api : ofEdition(api, edition);
  const situation = situationOf<AnyApi>(declared, {
    endpoint: name,
    audience,
    asked,
    ...(fields === undefined ? {} : { fields }),
  });
  const endpoint = declared.plan.endpoints.find((each) => each.name === name) as EndpointPlan;
  const whom = `${audience === null ? '' : ` for ${audience}`}${edition === undefined ? '' : ` in ${edition}`}`;
  if (!answers(endpoint, audience))
    throw misused(name, `it does not answer ${audience ?? 'callers of no audience'}`);
  const plan = endpoint.returns;
  if (plan === null) throw misused(name, 'it sends no JSON: look at its status, or at its bytes');
  if (body instanceof Response || body instanceof Promise)
    throw misused(name, 'expected what a response says, not the response: await response.json()');
  const validate = validatorAt(endpoint, plan, situation);
  if (validate(body)) return;
  const wrongs = validate.errors ?? [];
  const said = [
    `${name}${whom}: what came is not what it sends.`,
    problemIn(body) ?? sayWrong(plan, situation, body, wrongs),
  ];
  throw new AssertionError({
    message: said.join('\n'),
    stackStartFn: assertAnswer,
    operator: 'fail',
  });
}
