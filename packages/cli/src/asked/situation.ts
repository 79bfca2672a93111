import type { Situation } from 'gribo';
import { answers, didYouMean, type EndpointPlan } from 'gribo/kit';
import type { GriboConfig } from '../config/config.js';
import { Mistake } from '../screen/mistake.js';
import { askingAs, type CallerOptions } from './caller.js';

/** The options that say whom a response is for, and what they ask. */
export interface SituationOptions extends CallerOptions {
  readonly with?: readonly string[];
  readonly fields?: readonly string[];
}

/** The audience if the API declares it; null where none is named. */
export const pickAudience = (config: GriboConfig, name: string | undefined): string | null => {
  const { audiences } = config.api.plan;
  if (name === undefined) return null;
  if (audiences.includes(name)) return name;
  const close = didYouMean(name, audiences);
  const all = audiences.length === 0 ? ' The API declares none.' : ` There are: ${audiences.join(', ')}.`;
  throw new Mistake(`There is no audience "${name}".${close === '' ? all : close}`);
};

/** The audience of whoever asks an endpoint that answers it. */
export const audienceFor = (
  config: GriboConfig,
  endpoint: EndpointPlan,
  options: CallerOptions,
): string | null => {
  pickAudience(config, options.audience);
  const { audience } = askingAs(config, options).caller;
  const { audiences } = endpoint;
  if (audiences === null || answers(endpoint, audience)) return audience;
  throw new Mistake(`${endpoint.name} answers ${audiences.join(', ')} only: add --audience ${audiences[0]}`);
};

/** The situation that the options describe, for an endpoint that answers its audience. */
export const situationFor = (
  config: GriboConfig,
  endpoint: EndpointPlan,
  options: SituationOptions,
): Situation => {
  return {
    endpoint: endpoint.name,
    audience: audienceFor(config, endpoint, options),
    ...(options.with === undefined ? {} : { asked: options.with }),
    ...(options.fields === undefined ? {} : { fields: options.fields }),
  };
};
