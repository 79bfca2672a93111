import { didYouMean, type EndpointPlan } from 'gribo/kit';
import type { GriboConfig } from '../config/config.js';
import { Mistake } from '../screen/mistake.js';

/** The endpoint of this name, or the sentence that says which names there are. */
export const pickEndpoint = (config: GriboConfig, name: string): EndpointPlan => {
  const { endpoints } = config.api.plan;
  const found = endpoints.find((endpoint) => endpoint.name === name);
  if (found !== undefined) return found;
  const names = endpoints.map((endpoint) => endpoint.name);
  const close = didYouMean(name, names);
  throw new Mistake(
    `There is no endpoint "${name}".${close === '' ? ` There are: ${names.join(', ')}.` : close}`,
  );
};
