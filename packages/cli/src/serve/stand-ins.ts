import { type AnyHandler, type HandlerContext, handlersWanted, Problem } from '@gribo/http';
import type { AnyApi } from 'gribo';
import { type ApiPlan, type EndpointPlan, editionsOf, inEdition, isAboutMany } from 'gribo/kit';
import type { GriboConfig } from '../config/config.js';

/** What a handler of any endpoint is given, so far as it is needed here. */
type AnyContext = Pick<HandlerContext<AnyApi, string>, 'key' | 'load' | 'edition'>;

const endpointIn = ({ endpoints }: ApiPlan, name: string): EndpointPlan | undefined =>
  endpoints.find((endpoint) => endpoint.name === name);

/** What stands in for a handler on sample rows: the row that the path names, or those that there are. */
const sampled = (api: ApiPlan, name: string): AnyHandler => {
  const answer = async ({ key, load, edition }: AnyContext): Promise<unknown> => {
    const plan = edition === null ? api : (inEdition(api, edition) ?? api);
    const returns = endpointIn(plan, name)?.returns ?? null;
    if (returns === null) return null;
    if (isAboutMany(returns))
      return returns.kind === 'list' ? load.rows() : { items: await load.rows({ limit: 20 }) };
    const row = key === null ? (await load.rows({ limit: 1 }))[0] : await load.row(...key);
    return returns.kind === 'envelope' ? { item: row } : (row ?? null);
  };
  return answer as AnyHandler;
};

/** Where there is no handler that is needed, the endpoint says so; on samples it answers with one. */
export const standIns = (
  { api, handlers = {} }: GriboConfig,
  isSampled: boolean,
): Readonly<Record<string, AnyHandler>> =>
  Object.fromEntries(
    handlersWanted(api.plan).flatMap(({ name, why }): [string, AnyHandler][] => {
      if (handlers[name] !== undefined) return [];
      const isOwn = editionsOf(api.plan).some((plan) => endpointIn(plan, name)?.operation === null);
      if (isSampled && isOwn) return [[name, sampled(api.plan, name)]];
      const detail = `${name} has no handler here: ${why}. The configuration takes handlers too.`;
      const refuse = (): never => {
        throw new Problem(501, { detail });
      };
      return [[name, refuse]];
    }),
  );
