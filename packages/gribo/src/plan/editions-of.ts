import type { ApiPlan } from './api-plan.js';

/** An API in each of its editions, oldest first; itself alone where it has none. */
export const editionsOf = (api: ApiPlan): readonly ApiPlan[] => [...api.earlier, api];

/** An API in the edition of a name; undefined where there is no such one. */
export const inEdition = (api: ApiPlan, name: string): ApiPlan | undefined =>
  editionsOf(api).find(({ edition }) => edition?.name === name);
