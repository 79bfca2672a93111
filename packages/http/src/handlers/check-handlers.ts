import { DeclarationError } from 'gribo';
import { type ApiPlan, audiencesAt, type EndpointPlan, editionsOf, unsetColumns } from 'gribo/kit';
import { operationOf } from '../operations/operate.js';
import type { AnyHandler } from './handlers.js';

/** Why an endpoint can do nothing without a handler; null where it can. */
const whyWanted = (endpoint: EndpointPlan, plan: ApiPlan): string | null => {
  if (operationOf(endpoint) === null)
    return 'what it does does not follow from its declaration: give it a handler';
  const lacking = audiencesAt(endpoint, plan).map((audience) => unsetColumns(endpoint, audience));
  const columns = new Set(lacking.flat());
  if (columns.size === 0) return null;
  const whom = lacking.every((some) => some.length > 0) ? '' : ' for everybody whom it answers';
  const lack = `its input does not set ${[...columns].join(', ')}${whom}, so no row can be made`;
  return `${lack}: take it in the input, mark it .defaulted() where the database sets it, or give the endpoint a handler that does`;
};

/**
 * The endpoints of an API that can do nothing without a handler, by name, and why.
 *
 * @param plan the API's plan
 * @example
 * handlersWanted(harbour.plan).map(({ name }) => name)
 */
export const handlersWanted = (plan: ApiPlan): readonly { readonly name: string; readonly why: string }[] => {
  const wanted = new Map<string, string>();
  for (const edition of editionsOf(plan))
    for (const endpoint of edition.endpoints) {
      const why = whyWanted(endpoint, edition);
      if (why !== null) wanted.set(endpoint.name, why);
    }
  return [...wanted].map(([name, why]) => ({ name, why }));
};

/** What is wrong with the handlers: one for no endpoint, or none for an endpoint that does nothing of itself. */
export const checkHandlers = (
  plan: ApiPlan,
  handlers: Readonly<Record<string, AnyHandler | undefined>>,
): void => {
  const names = editionsOf(plan).flatMap(({ endpoints }) => endpoints.map(({ name }) => name));
  const strays = Object.keys(handlers).filter((name) => !names.includes(name));
  const idle = handlersWanted(plan).filter(({ name }) => handlers[name] === undefined);
  DeclarationError.throwIfAny(`serve "${plan.title}"`, [
    ...strays.map((name) => ({
      path: name,
      message: 'there is no such endpoint, so its handler is never called',
    })),
    ...idle.map(({ name, why }) => ({ path: name, message: why })),
  ]);
};
