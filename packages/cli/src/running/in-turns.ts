/** How many files are open at once. */
const AT_ONCE = 32;

/** Does something with each of many, some of them at once; the results are in their order. What fails is told when those beside it are done. */
export const inTurns = async <T, R>(
  all: readonly T[],
  work: (one: T) => Promise<R>,
): Promise<readonly R[]> => {
  const done: R[] = [];
  for (let i = 0; i < all.length; i += AT_ONCE) {
    const settled = await Promise.allSettled(all.slice(i, i + AT_ONCE).map(work));
    for (const one of settled) {
      if (one.status === 'rejected') throw one.reason;
      done.push(one.value);
    }
  }
  return done;
};
