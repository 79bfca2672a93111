import { Problem } from '../problems/problem.js';

/**
 * What a promise yields, if it does so in time.
 *
 * @param milliseconds how long is waited
 * @param late makes what is thrown then
 */
export const inTime = async <T>(work: Promise<T>, milliseconds: number, late: () => Problem): Promise<T> => {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const limit = new Promise<never>((_resolve, reject) => {
    timer = setTimeout(() => reject(late()), milliseconds);
  });
  try {
    return await Promise.race([work, limit]);
  } finally {
    clearTimeout(timer);
  }
};

/** What is thrown where the store or a handler takes too long. */
export const tooSlow = (milliseconds: number): Problem =>
  new Problem(503, {
    detail: 'The answer took too long.',
    cause: new Error(`the store or a handler took more than ${milliseconds} ms`),
  });
