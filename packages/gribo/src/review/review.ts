import type { ApiPlan } from '../plan/api-plan.js';
import type { EntityPlan } from '../plan/entity-plan.js';
import type { LinkedEntities } from '../plan/linked-entity.js';
import { freeze } from '../util/freeze.js';
import type { Accepted, ReviewFinding, Severity } from './finding.js';
import { checkBodies } from './findings/check-bodies.js';
import { checkColumns, checkSeals, checkWriteOnly } from './findings/check-columns.js';
import { checkEverything, checkNames, type NameStyle } from './findings/check-names.js';
import { lineage } from './lineage/lineage.js';

export interface ReviewOptions {
  /** The model, so that entities and columns that no endpoint reaches are found too. */
  readonly model?: LinkedEntities;
  /** Sample rows by entity: endpoints about entities without any are found. */
  readonly samples?: Readonly<Record<string, Iterable<object>>>;
  /** How members, parameters and endpoints are named. Default: `camelCase`. */
  readonly style?: NameStyle;
  /** Findings that are all right, and why. One that does not occur any more is found itself. */
  readonly accepted?: readonly Accepted[];
  /** Findings of others, such as where model and database do not agree. */
  readonly more?: readonly ReviewFinding[];
  /** The day that sunsets are compared with, `YYYY-MM-DD`. Default: today, in UTC. */
  readonly today?: string;
}

export interface Review {
  /** What was found and not accepted: errors first, then warnings, then notes. */
  readonly findings: readonly ReviewFinding[];
  /** What was found and is accepted, with its reason. */
  readonly accepted: readonly (ReviewFinding & { readonly reason: string })[];
}

const checkSamples = (
  { endpoints }: ApiPlan,
  samples: NonNullable<ReviewOptions['samples']>,
): readonly ReviewFinding[] =>
  endpoints
    .filter(({ returns, entity }) => returns !== null && Array.from(samples[entity.name] ?? []).length === 0)
    .map(({ name, entity }) => ({
      code: 'no-sample',
      severity: 'note',
      place: name,
      message: `There is no sample row of ${entity.name} to show it with.`,
      advice: 'Ask samples() for rows of it, or bring your own.',
    }));

const entitiesOf = (api: ApiPlan, model: LinkedEntities): readonly EntityPlan[] => [
  ...new Set([
    ...Object.values(model).map(({ entity }) => entity),
    ...api.endpoints.map(({ entity }) => entity),
  ]),
];

const accepts = ({ code, place }: Accepted, finding: ReviewFinding): boolean => {
  if (code !== finding.code) return false;
  return place.endsWith('*') ? finding.place.startsWith(place.slice(0, -1)) : finding.place === place;
};

/** Accepted findings that do not occur: the list would hide them if they came back. */
const settled = ({ code, place }: Accepted): ReviewFinding => ({
  code: 'settled',
  severity: 'warning',
  place,
  message: `It is accepted as ${code}, and is found no more.`,
  advice: 'Take it off the list of accepted findings.',
});

const RANK: Readonly<Record<Severity, number>> = { error: 0, warning: 1, note: 2 };

/**
 * Looks an API over for what is risky or undecided: sealed values that get out, columns nobody
 * decided on, lists without limits, names out of style, and more.
 *
 * @param api the API
 * @param options `model`, `samples`, `style`, `accepted`, `more`, `today`
 * @returns what was found, and what of it is accepted
 * @example
 * review(harbour, { model: db }).findings.some(({ code }) => code === 'unsealed') // => true
 */
export const review = (api: { readonly plan: ApiPlan }, options: ReviewOptions = {}): Review => {
  const { plan } = api;
  const { model = {}, samples, style = 'camelCase', accepted = [], more = [] } = options;
  const today = options.today ?? new Date().toISOString().slice(0, 10);
  const flows = lineage(api);
  const found = [
    ...checkSeals(flows),
    ...checkEverything(plan),
    ...checkColumns(entitiesOf(plan, model), model, flows),
    ...checkWriteOnly(model, flows),
    ...checkBodies(plan, today),
    ...checkNames(plan, style),
    ...(samples === undefined ? [] : checkSamples(plan, samples)),
    ...more,
  ];
  const stale = accepted.filter((one) => !found.some((finding) => accepts(one, finding))).map(settled);
  const open = found.filter((finding) => !accepted.some((one) => accepts(one, finding)));
  const isAccepted = found.flatMap((finding) => {
    const by = accepted.find((one) => accepts(one, finding));
    return by === undefined ? [] : [freeze({ ...finding, reason: by.reason })];
  });
  const findings = [...open, ...stale].sort((a, b) => RANK[a.severity] - RANK[b.severity]);
  return freeze({ findings: freeze(findings), accepted: freeze(isAccepted) });
};
