import type { Here } from './here.js';

/** Something in its newest form, with the way to each of the others. */
interface ForEditions<T> {
  readonly newest: T;
  readonly in: (here: Here) => T;
}

/**
 * Makes something for the newest edition at once, so that what is wrong with it is told where it is declared, and for others when they are
 * asked for.
 *
 * @param make makes it for an edition, and notes the names of editions that it meets
 */
export const forEditions = <T>(make: (here: Here) => T): ForEditions<T> => {
  const first: Here = { edition: undefined, met: new Set() };
  const newest = make(first);
  return {
    newest,
    in: (here) => {
      if (here.edition !== undefined) return make(here);
      for (const name of first.met) here.met.add(name);
      return newest;
    },
  };
};
