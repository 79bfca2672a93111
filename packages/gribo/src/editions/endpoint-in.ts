import type {
  EndpointPlan,
  FilterParameter,
  ProblemPlan,
  RowRulePlan,
  SortParameter,
} from '../plan/api-plan.js';
import { freeze } from '../util/freeze.js';
import { mapKept, mapSame } from '../util/map-same.js';
import { bodyIn } from './body-in.js';
import { conditionIn, keysIn, thereIn } from './condition-in.js';
import type { Here } from './here.js';
import { inputIn } from './input-in.js';

/** Parameters that are there in one edition. */
const parametersIn = <P extends FilterParameter | SortParameter>(
  parameters: readonly P[],
  here: Here,
): readonly P[] => mapKept(keysIn(parameters, here), (parameter) => thereIn(parameter, here));

const problemIn = (problem: ProblemPlan, here: Here): ProblemPlan => {
  const members = problem.members && inputIn(problem.members, here);
  return members === problem.members ? problem : freeze({ ...problem, members });
};

/** An endpoint as it is in one edition: what it sends and takes, and what its query may ask. */
export const endpointIn = <E extends Omit<EndpointPlan, 'name'>>(endpoint: E, here: Here): E => {
  const { returns, takes, query } = endpoint;
  const made = {
    returns: returns && bodyIn(returns, here),
    takes: takes && inputIn(takes, here),
    query: query && inputIn(query, here),
    problems: mapSame(endpoint.problems, (problem) => problemIn(problem, here)),
    filters: parametersIn(endpoint.filters, here),
    sort: parametersIn(endpoint.sort, here),
    order: keysIn(endpoint.order, here),
  };
  const isSame = Object.entries(made).every(([name, part]) => part === endpoint[name as keyof typeof made]);
  return isSame ? endpoint : freeze({ ...endpoint, ...made });
};

/** A row rule as it is in one edition. */
export const ruleIn = (rule: RowRulePlan, here: Here): RowRulePlan => {
  const [see, change] = [conditionIn(rule.see, here), conditionIn(rule.change, here)];
  return see === rule.see && change === rule.change ? rule : freeze({ ...rule, see, change });
};
