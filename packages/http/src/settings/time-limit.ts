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

/**
 * What is thrown where the store or a handler takes too long.
 *
 * @param mayBeDone whether what was asked for may have been done all the same
 */
export const tooSlow = (milliseconds: number, mayBeDone = false): Problem =>
  new Problem(503, {
    detail: mayBeDone
      ? 'The answer took too long. It was given up, but part of the way it may have been done: look before it is sent again.'
      : 'The answer took too long.',
    cause: new Error(`the store or a handler took more than ${milliseconds} ms`),
  });
