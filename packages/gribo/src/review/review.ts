import type { ApiPlan } from '../plan/api-plan.js';
import { editionsOf } from '../plan/editions-of.js';
import type { EntityPlan } from '../plan/entity-plan.js';
import { dayOf } from '../plan/is-over.js';
import type { LinkedEntities } from '../plan/linked-entity.js';
import { clock } from '../util/clock.js';
import { freeze } from '../util/freeze.js';
import type {
  Accepted,
  FindingRule,
  Found,
  ReviewContext,
  ReviewFinding,
  Serving,
  Severity,
} from './finding.js';
import { FINDINGS } from './findings/findings.js';
import { lineage } from './lineage/lineage.js';
import type { NameStyle } from './name-style.js';

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
  /** How the API is served: what is risky only there is found too. */
  readonly serving?: Serving;
  /** The day that sunsets are compared with, `YYYY-MM-DD`. Default: today, in UTC. */
  readonly today?: string;
}

export interface Review {
  /** What was found and not accepted: errors first, then warnings, then notes. */
  readonly findings: readonly ReviewFinding[];
  /** What was found and is accepted, with its reason. */
  readonly accepted: readonly (ReviewFinding & { readonly reason: string })[];
}

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

/** Accepted findings that do not occur any more: the list would hide them if they came back. */
const noLongerFound: Omit<FindingRule, 'find'> = {
  code: 'found-no-more',
  severity: 'warning',
  rule: 'An accepted finding is found no more.',
  advice: 'Take it off the list of accepted findings.',
};

/** What a rule found, as a finding. */
const findingOf = ({ code, severity, advice }: Omit<FindingRule, 'find'>, found: Found): ReviewFinding => ({
  code,
  severity,
  advice,
  ...found,
});

const foundIn = (context: ReviewContext, rules: readonly FindingRule[]): readonly ReviewFinding[] =>
  rules.flatMap((rule) => rule.find(context).map((one) => findingOf(rule, one)));

/** What was found in editions before, and is not so in the newest: each once, with those in which it is. */
const foundBefore = (
  before: readonly (readonly [edition: string, found: readonly ReviewFinding[]])[],
  newest: readonly ReviewFinding[],
): readonly ReviewFinding[] => {
  const known = new Set(newest.map(({ code, place }) => `${code} ${place}`));
  const only = new Map<string, { readonly finding: ReviewFinding; readonly editions: string[] }>();
  for (const [edition, found] of before)
    for (const finding of found) {
      const key = `${finding.code} ${finding.place}`;
      if (known.has(key)) continue;
      const one = only.get(key) ?? { finding, editions: [] };
      only.set(key, one);
      if (!one.editions.includes(edition)) one.editions.push(edition);
    }
  return [...only.values()].map(({ finding, editions }) => ({
    ...finding,
    message: `${finding.message} In ${editions.join(', ')} only.`,
  }));
};

/**
 * Every rule that a review may speak of, for tools that show rules.
 *
 * @param more rules whose findings are given as `more`
 * @example
 * reviewRules().some(({ code }) => code === 'found-no-more') // => true
 */
export const reviewRules = (
  more: readonly Omit<FindingRule, 'find'>[] = [],
): readonly Omit<FindingRule, 'find'>[] => [...FINDINGS, ...more, noLongerFound];

const RANK: Readonly<Record<Severity, number>> = { error: 0, warning: 1, note: 2 };

/**
 * Looks an API over for what is risky or undecided: sealed values that get out, columns nobody
 * decided on, lists without limits, names out of style, and more.
 *
 * @param api the API
 * @param options `model`, `samples`, `style`, `accepted`, `more`, `serving`, `today`
 * @returns what was found, and what of it is accepted
 * @example
 * review(harbour, { model: db }).findings.some(({ code }) => code === 'unsealed') // => true
 */
export const review = (api: { readonly plan: ApiPlan }, options: ReviewOptions = {}): Review => {
  const { plan } = api;
  const { model = {}, samples, style = 'camelCase', accepted = [], more = [] } = options;
  const today = options.today ?? dayOf(clock());
  const editions = editionsOf(plan);
  const contextOf = (edition: ApiPlan): ReviewContext => ({
    api: edition,
    editions,
    entities: entitiesOf(edition, model),
    model,
    flows: lineage({ plan: edition }),
    style,
    today,
    serving: options.serving ?? {},
    samples: samples ?? null,
  });
  const newest = foundIn(contextOf(plan), FINDINGS);
  const everywhere = FINDINGS.filter((rule) => rule.editions !== 'newest');
  const found = [
    ...newest,
    ...foundBefore(
      plan.earlier.map((one) => [one.edition?.name ?? '', foundIn(contextOf(one), everywhere)] as const),
      newest,
    ),
    ...more,
  ];
  const stale = accepted
    .filter((one) => !found.some((finding) => accepts(one, finding)))
    .map(({ code, place }) =>
      findingOf(noLongerFound, { place, message: `It is accepted as ${code}, and is found no more.` }),
    );
  const open = found.filter((finding) => !accepted.some((one) => accepts(one, finding)));
  const isAccepted = found.flatMap((finding) => {
    const by = accepted.find((one) => accepts(one, finding));
    return by === undefined ? [] : [freeze({ ...finding, reason: by.reason })];
  });
  const findings = [...open, ...stale].sort((a, b) => RANK[a.severity] - RANK[b.severity]);
  return freeze({ findings: freeze(findings), accepted: freeze(isAccepted) });
};
