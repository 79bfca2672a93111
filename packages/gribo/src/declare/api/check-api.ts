import type { Finding } from '../../errors/declaration-error.js';
import type { ApiPlan, EndpointPlan } from '../../plan/api-plan.js';
import { audiencesAt } from '../../plan/audiences-at.js';
import type { ConditionNode, FactPlan } from '../../plan/condition.js';
import type { BodyPlan } from '../../plan/declared.js';
import { NOW } from '../../plan/now.js';
import { walkCondition, walkMembers } from '../../plan/walk-members.js';
import { lastPart } from '../../resolve/resolver.js';
import { missingAt } from '../../shown/missing-rows.js';
import { type Unseen, unseenAt } from '../../shown/unseen.js';
import { didYouMean } from '../../util/nearest.js';
import { TAKEN } from './query-findings.js';

/** Gathers findings, each of them once: shapes are reached from many endpoints, and most of them in all editions. */
class Findings {
  /** The edition that is looked at; null: there is none, or it is the newest. */
  edition: string | null = null;
  readonly #found = new Map<string, Finding>();

  add(path: string, message: string): void {
    const key = `${path}: ${message}`;
    const place = this.edition === null ? path : `${path} (${this.edition})`;
    if (!this.#found.has(key)) this.#found.set(key, { path: place, message });
  }

  get all(): Finding[] {
    return [...this.#found.values()];
  }
}

const checkRoutes = (endpoints: readonly EndpointPlan[], findings: Findings): void => {
  const seen = new Map<string, string>();
  for (const { name, method, path } of endpoints) {
    const route = `${method} ${path.replaceAll(/\{[^}]*\}/g, '{}')}`;
    const other = seen.get(route);
    if (other !== undefined) findings.add(name, `answers ${method} ${path}, as ${other} does`);
    seen.set(route, name);
  }
};

const checkParameters = ({ name, parameters, entity, under }: EndpointPlan, findings: Findings): void => {
  const known = under === null ? entity.key : [...entity.key, ...under.parameters];
  for (const parameter of parameters) {
    if (known.includes(parameter) || entity.kind === 'values') continue;
    const key = entity.key.map((column) => `{${column}}`).join(', ');
    findings.add(name, `{${parameter}} is no key of ${entity.name}; its key is ${key}`);
  }
  if (new Set(parameters).size < parameters.length) findings.add(name, 'has the same parameter twice');
};

const checkFilters = ({ name, filters }: EndpointPlan, findings: Findings): void => {
  for (const filter of filters) {
    if (!TAKEN.includes(filter.name)) continue;
    findings.add(name, `a filter cannot be called "${filter.name}": the parameter has a meaning already`);
  }
};

const checkAudiences = (
  names: readonly string[],
  known: readonly string[],
  at: string,
  findings: Findings,
): void => {
  for (const name of names) {
    if (!known.includes(name)) findings.add(at, `there is no audience "${name}".${didYouMean(name, known)}`);
  }
};

/** A fact is one that the API's caller has: the very same, for another may be of another type. */
const checkFact = (fact: FactPlan, known: readonly FactPlan[], at: string, findings: Findings): void => {
  if (fact.name === NOW || known.includes(fact)) return;
  findings.add(at, `the API's caller has no fact "${fact.name}": give what callerOf returns as \`caller\``);
};

const checkCondition = (
  condition: ConditionNode,
  { audiences, caller }: ApiPlan,
  at: string,
  findings: Findings,
): void =>
  walkCondition(condition, at, {
    audiences: (names) => checkAudiences(names, audiences, at, findings),
    fact: (fact) => checkFact(fact, caller, at, findings),
  });

const checkRules = (plan: ApiPlan, findings: Findings): void => {
  const seen = new Set<string>();
  for (const { entity, see, change } of plan.rules) {
    const at = `rows of ${entity.name}`;
    if (seen.has(entity.name))
      findings.add(at, 'there are two rules for it: make one of them, with any or all');
    seen.add(entity.name);
    checkCondition(see, plan, at, findings);
    checkCondition(change, plan, at, findings);
  }
};

/** What to write instead of what would tell a caller of a column that it is not shown. */
const INSTEAD: Readonly<Record<Unseen['kind'], string>> = {
  filter: 'leave the filter to those who see it: given(audience(…), …)',
  sort: 'leave it to those who see it: { by, audiences: […] }',
  order: 'page by another column',
  nested: 'sort by another column',
};

const checkUnseen = (endpoint: EndpointPlan, plan: ApiPlan, findings: Findings): void => {
  const told = new Map<string, string[]>();
  for (const { kind, name, column, audience } of unseenAt(endpoint, plan)) {
    const key = JSON.stringify([kind, name, column]);
    told.set(key, [...(told.get(key) ?? []), audience ?? 'no audience']);
  }
  for (const [key, audiences] of told) {
    const [kind, name, column] = JSON.parse(key) as [Unseen['kind'], string, string];
    const places = {
      filter: `${endpoint.name}?${name}`,
      sort: `${endpoint.name}?sort`,
      order: endpoint.name,
      nested: name,
    };
    const isAll = audiences.length === audiencesAt(endpoint, plan).length;
    const whom = isAll ? 'nobody is' : `callers of ${audiences.join(', ')} are not`;
    const instead = `show it to them, under a condition that is data where it is not always to be seen, or ${INSTEAD[kind]}`;
    findings.add(places[kind], `${whom} shown ${column} here, or only where code says so: ${instead}`);
  }
};

/** A row behind a to-one link that a rule hides is as if it were not there: the body has to be able to say so. */
const checkMissing = (endpoint: EndpointPlan, plan: ApiPlan, findings: Findings): void => {
  for (const { member, link, entity } of missingAt(endpoint, plan)) {
    const may = `a rule may hide the ${entity} behind "${link}", and the member could not say so`;
    const name = member.slice(member.lastIndexOf('.') + 1);
    const instead = `say ${name}: unlessNull(…), which leaves it out then, or given(…) with the condition of the rule`;
    findings.add(member, `${may}: ${instead}`);
  }
};

/** What is known of all editions while one of them is looked at. */
interface Known {
  /** The names of endpoints, with their last parts: one that is in no other edition may be named in all. */
  readonly names: ReadonlySet<string>;
  /** What may be asked for; null: whatever the shapes ask about. */
  readonly asks: readonly string[] | null;
  /** What shapes were found to ask about. */
  readonly asked: Set<string>;
}

const checkBody = (body: BodyPlan, plan: ApiPlan, known: Known, findings: Findings): void => {
  const { names, asks, asked } = known;
  walkMembers(body, {
    endpoint: (name, at) => {
      if (!names.has(name)) findings.add(at, `no endpoint is called "${name}".${didYouMean(name, names)}`);
    },
    audiences: (found, at) => checkAudiences(found, plan.audiences, at, findings),
    fact: (fact, at) => checkFact(fact, plan.caller, at, findings),
    asked: (name, at) => {
      asked.add(name);
      if (asks !== null && !asks.includes(name)) {
        findings.add(at, `"${name}" is not among the names to ask for.${didYouMean(name, asks)}`);
      }
    },
  });
};

const checkPlan = (plan: ApiPlan, known: Known, findings: Findings): void => {
  checkRoutes(plan.endpoints, findings);
  checkRules(plan, findings);
  const bodies = new Set<BodyPlan>();
  for (const endpoint of plan.endpoints) {
    checkParameters(endpoint, findings);
    checkFilters(endpoint, findings);
    for (const { name, when } of [...endpoint.filters, ...endpoint.sort])
      if (when !== null) checkCondition(when, plan, `${endpoint.name}?${name}`, findings);
    checkAudiences(endpoint.audiences ?? [], plan.audiences, endpoint.name, findings);
    checkUnseen(endpoint, plan, findings);
    checkMissing(endpoint, plan, findings);
    if (endpoint.returns !== null) bodies.add(endpoint.returns);
  }
  for (const body of bodies) checkBody(body, plan, known, findings);
};

/**
 * What is wrong with an API: what its members and endpoints name must be there.
 *
 * @param plans the API in each of its editions, oldest first
 */
export const checkApi = (plans: readonly ApiPlan[], asks: readonly string[] | null): readonly Finding[] => {
  const findings = new Findings();
  const endpoints = plans.flatMap((plan) => plan.endpoints);
  const names = new Set(endpoints.flatMap(({ name }) => [name, lastPart(name)]));
  const known: Known = { names, asks, asked: new Set() };
  // The newest first: what is wrong in it is told without a word of editions.
  for (const plan of [...plans].reverse()) {
    findings.edition = plan === plans.at(-1) ? null : (plan.edition?.name ?? null);
    checkPlan(plan, known, findings);
  }
  for (const name of asks ?? []) {
    if (!known.asked.has(name))
      findings.add('asks', `"${name}" is never used.${didYouMean(name, known.asked)}`);
  }
  return findings.all;
};
