import { freeze } from './freeze.js';

/** What becomes of each of several; the same list where each of them stays as it is. */
export const mapSame = <T>(all: readonly T[], map: (one: T) => T): readonly T[] => {
  const mapped = all.map(map);
  return mapped.every((one, i) => one === all[i]) ? all : freeze(mapped);
};

/** The same for those that may be left out: null leaves one out. */
export const mapKept = <T>(all: readonly T[], map: (one: T) => T | null): readonly T[] => {
  const mapped = all.map(map);
  if (mapped.every((one, i) => one === all[i])) return all;
  return freeze(mapped.filter((one): one is Awaited<T> & T => one !== null));
};
