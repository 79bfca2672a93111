import { DeclarationError } from 'gribo';
import type { ApiPlan } from 'gribo/kit';
import { operationOf } from '../operations/operate.js';
import type { AnyHandler } from './handlers.js';

/** What is wrong with the handlers: one for no endpoint, or none for an endpoint that does nothing of itself. */
export const checkHandlers = (
  plan: ApiPlan,
  handlers: Readonly<Record<string, AnyHandler | undefined>>,
): void => {
  const names = plan.endpoints.map(({ name }) => name);
  const strays = Object.keys(handlers).filter((name) => !names.includes(name));
  const idle = plan.endpoints.filter(
    (endpoint) => operationOf(endpoint) === null && handlers[endpoint.name] === undefined,
  );
  DeclarationError.throwIfAny(`serve "${plan.title}"`, [
    ...strays.map((name) => ({
      path: name,
      message: 'there is no such endpoint, so its handler is never called',
    })),
    ...idle.map(({ name }) => ({
      path: name,
      message: 'what it does does not follow from its declaration: give it a handler',
    })),
  ]);
};
