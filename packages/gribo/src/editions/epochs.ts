import type { Here } from './here.js';

/**
 * The editions in which something that is declared can be another than before: those that it names, and the time before
 * all of them, `''`. In an edition between two of them it is as in the earlier one.
 *
 * @param settle settles it for an edition, and notes the names that it meets
 */
export const epochsOf = (settle: (here: Here) => unknown): readonly string[] => {
  // What is met in one edition may not be met in another.
  const epochs = new Set(['']);
  for (const edition of epochs) {
    const met = new Set<string>();
    settle({ edition, met });
    for (const name of met) epochs.add(name);
  }
  return [...epochs];
};
