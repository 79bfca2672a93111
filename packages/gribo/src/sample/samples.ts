import { DeclarationError, type Finding } from '../errors/declaration-error.js';
import type { LinkedEntities } from '../plan/linked-entity.js';
import { didYouMean } from '../util/nearest.js';
import { SampleRows } from './sample-rows.js';

/** Rows by the names of their entities, as plain objects by property names. */
export type SampledRows = Readonly<Record<string, readonly object[]>>;

export interface SampleOptions {
  /** What the made-up values follow from: the same seed gives the same rows. Default: 1. */
  readonly seed?: number | string;
  /** How many rows of each entity, or of some by name; 12 where nothing is said. */
  readonly rows?: number | Readonly<Record<string, number>>;
  /** Rows of your own, which come first. What they leave out is made up. */
  readonly own?: Readonly<Record<string, readonly object[]>>;
}

const ROWS = 12;

const unknownNames = (model: LinkedEntities, options: SampleOptions): readonly Finding[] => {
  const known = Object.values(model).map(({ entity }) => entity.name);
  const named = [
    ...(typeof options.rows === 'object' ? Object.keys(options.rows) : []),
    ...Object.keys(options.own ?? {}),
  ];
  return named
    .filter((name) => !known.includes(name))
    .map((name) => ({ path: name, message: `there is no such entity.${didYouMean(name, known)}` }));
};

/**
 * Made-up rows for every entity of a model: by type, limits and the names of columns. Links fit each
 * other, unique values are, and every choice is there. The same options give the same rows, and a
 * column that is added leaves the others as they were.
 *
 * @param model the model
 * @param options `seed`, `rows`, `own`
 * @returns rows by entity, as `memoryStore` takes them
 * @throws {DeclarationError} `DECLARATION` where a column's pattern or uniqueness is more than can be
 * made up, listing each
 * @example
 * samples(db, { seed: 7, rows: { vessel: 3 } })['vessel'].length // => 3
 */
export const samples = (model: LinkedEntities, options: SampleOptions = {}): SampledRows => {
  const { seed = 1, rows = ROWS, own = {} } = options;
  DeclarationError.throwIfAny('samples', unknownNames(model, options));
  const filling = new SampleRows(model, {
    seed,
    rowsOf: (entity) =>
      typeof rows === 'number' ? rows : ((Object.hasOwn(rows, entity) ? rows[entity] : null) ?? ROWS),
    ownOf: (entity) => (Object.hasOwn(own, entity) ? own[entity] : null) ?? [],
  });
  const made = filling.fill();
  DeclarationError.throwIfAny('samples', filling.findings);
  return made;
};
