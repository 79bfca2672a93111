const { GRIBO_CASES, GRIBO_LAWS, GRIBO_SEED } = process.env;

/** How many cases were asked for by number; null: none were. */
const wanted = GRIBO_CASES === undefined ? null : Number(GRIBO_CASES);

/** Whether somebody waits for the count of a long run. */
export const isCounted: boolean = wanted !== null;

/**
 * How many cases a law is tried with: a fifth of them each time, all of them where `GRIBO_LAWS=all` (`npm run test:laws`), and so many
 * where `GRIBO_CASES` says a number.
 *
 * @param whole how many are all of them
 */
export const cases = (whole: number): number =>
  wanted ?? (GRIBO_LAWS === 'all' ? whole : Math.ceil(whole / 5));

/** The seed that `GRIBO_SEED` names, to try the same cases again. */
export const seed: number | null = GRIBO_SEED === undefined ? null : Number(GRIBO_SEED);

/** What fast-check is told of a law. */
export const runs = (whole: number): { readonly numRuns: number; readonly seed?: number } => ({
  numRuns: cases(whole),
  ...(seed === null ? {} : { seed }),
});
