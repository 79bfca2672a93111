import { didYouMean } from '../util/nearest.js';
import { GriboError } from './gribo-error.js';

/**
 * The error for an entity that a store's model does not have.
 *
 * @param entity the name that was asked for
 * @param known the names that there are
 * @example
 * unknownEntity('vesel', ['vessel', 'berth']).message // => the store's model has no entity "vesel". Did you mean "vessel"?
 */
export const unknownEntity = (entity: string, known: Iterable<string>): GriboError =>
  new GriboError(
    'UNKNOWN',
    entity,
    `the store's model has no entity "${entity}".${didYouMean(entity, known)}`,
  );
