import type { BodyPlan, EndpointPlan } from 'gribo/kit';
import type { GriboConfig } from '../config/config.js';
import { Mistake } from '../screen/mistake.js';
import { pickEndpoint } from './pick-endpoint.js';

/** An endpoint that sends something. */
export type Sending = EndpointPlan & { readonly returns: BodyPlan };

/** Whether an endpoint sends something. */
export const isSending = (endpoint: EndpointPlan): endpoint is Sending => endpoint.returns !== null;

/** The endpoint of a name. @throws {Mistake} where there is none, or it sends nothing */
export const sendingEndpoint = (config: GriboConfig, name: string): Sending => {
  const endpoint = pickEndpoint(config, name);
  if (!isSending(endpoint)) throw new Mistake(`${name} sends no body.`);
  return endpoint;
};
