import { DeclarationError, type Finding } from '../errors/declaration-error.js';
import type { LinkedEntities } from '../plan/linked-entity.js';

/**
 * Makes sure that a store can keep a model's rows under the names of its columns.
 *
 * @param store the store's name, for the message
 * @throws {DeclarationError} `DECLARATION` naming each column that is read by `.via()`
 * @example
 * checkStorable('myStore', db);
 */
export const checkStorable = (store: string, model: LinkedEntities): void => {
  const findings = Object.values(model).flatMap(({ entity }): Finding[] =>
    entity.columns
      .filter(({ via }) => via !== null)
      .map(({ name }) => ({
        path: `${entity.name}.${name}`,
        message:
          'it is read by .via(), from rows that you load yourself; a store keeps it under its own name',
      })),
  );
  DeclarationError.throwIfAny(store, findings);
};
