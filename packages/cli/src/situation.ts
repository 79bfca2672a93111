import { didYouMean, type EndpointPlan, type Situation } from 'gribo';
import type { GriboConfig } from './config.js';
import { Mistake } from './mistake.js';

/** The options that say whom a response is for, and what they ask. */
export interface SituationOptions {
  readonly audience?: string;
  readonly with?: readonly string[];
  readonly fields?: readonly string[];
}

/** The audience if the API declares it. */
export const pickAudience = (config: GriboConfig, name: string | undefined): string | undefined => {
  const { audiences } = config.api.plan;
  if (name === undefined || audiences.includes(name)) return name;
  const close = didYouMean(name, audiences);
  const all = audiences.length === 0 ? ' The API declares none.' : ` There are: ${audiences.join(', ')}.`;
  throw new Mistake(`There is no audience "${name}".${close === '' ? all : close}`);
};

/** The situation that the options describe, for an endpoint that answers its audience. */
export const situationFor = (
  config: GriboConfig,
  endpoint: EndpointPlan,
  options: SituationOptions,
): Situation => {
  const audience = pickAudience(config, options.audience);
  const { only } = endpoint;
  if (only !== null && (audience === undefined || !only.includes(audience))) {
    throw new Mistake(`${endpoint.name} answers ${only.join(', ')} only: add --audience ${only[0]}`);
  }
  return {
    endpoint: endpoint.name,
    ...(audience === undefined ? {} : { audience }),
    ...(options.with === undefined ? {} : { asked: options.with }),
    ...(options.fields === undefined ? {} : { fields: options.fields }),
  };
};
