import type { Finding } from '../../errors/declaration-error.js';
import type { ApiPlan, EndpointPlan } from '../../plan/api-plan.js';
import type { BodyPlan } from '../../plan/declared.js';
import { walkMembers } from '../../plan/walk-members.js';
import { lastPart } from '../../resolve/resolver.js';
import { didYouMean } from '../../util/nearest.js';

/** Gathers findings, each of them once: shapes are reached from many endpoints. */
class Findings {
  readonly #found = new Map<string, Finding>();

  add(path: string, message: string): void {
    this.#found.set(`${path}: ${message}`, { path, message });
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
  const known = under === null ? entity.key : [...entity.key, under.parameter];
  for (const parameter of parameters) {
    if (known.includes(parameter)) continue;
    const key = entity.key.map((column) => `{${column}}`).join(', ');
    findings.add(name, `{${parameter}} is no key of ${entity.name}; its key is ${key}`);
  }
  if (new Set(parameters).size < parameters.length) findings.add(name, 'has the same parameter twice');
};

/** What query parameters mean already, at every list. */
const TAKEN = ['page', 'size', 'after', 'sort', 'with', 'fields', 'format'];

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

/** What is wrong with an API: what its members and endpoints name must be there. */
export const checkApi = (plan: ApiPlan, asks: readonly string[] | null): readonly Finding[] => {
  const { endpoints, audiences } = plan;
  const findings = new Findings();
  const names = new Set(endpoints.flatMap(({ name }) => [name, lastPart(name)]));
  const asked = new Set<string>();
  checkRoutes(endpoints, findings);
  const bodies = new Set<BodyPlan>();
  for (const endpoint of endpoints) {
    checkParameters(endpoint, findings);
    checkFilters(endpoint, findings);
    checkAudiences(endpoint.audiences ?? [], audiences, endpoint.name, findings);
    if (endpoint.returns !== null) bodies.add(endpoint.returns);
  }
  for (const body of bodies) {
    walkMembers(body, {
      endpoint: (name, at) => {
        if (!names.has(name)) findings.add(at, `no endpoint is called "${name}".${didYouMean(name, names)}`);
      },
      audiences: (found, at) => checkAudiences(found, audiences, at, findings),
      asked: (name, at) => {
        asked.add(name);
        if (asks !== null && !asks.includes(name)) {
          findings.add(at, `"${name}" is not among the names to ask for.${didYouMean(name, asks)}`);
        }
      },
    });
  }
  for (const name of asks ?? []) {
    if (!asked.has(name)) findings.add('asks', `"${name}" is never used.${didYouMean(name, asked)}`);
  }
  return findings.all;
};
