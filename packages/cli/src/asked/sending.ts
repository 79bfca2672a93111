import type { EndpointPlan, SendingEndpoint } from 'gribo/kit';
import type { GriboConfig } from '../config/config.js';
import { Mistake } from '../screen/mistake.js';
import { pickEndpoint } from './pick-endpoint.js';

/** Whether an endpoint sends something. */
export const isSending = (endpoint: EndpointPlan): endpoint is SendingEndpoint => endpoint.returns !== null;

/** The endpoint of a name. @throws {Mistake} where there is none, or it sends nothing */
export const sendingEndpoint = (config: GriboConfig, name: string): SendingEndpoint => {
  const endpoint = pickEndpoint(config, name);
  if (!isSending(endpoint)) throw new Mistake(`${name} sends no body.`);
  return endpoint;
};
