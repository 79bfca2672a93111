import { Mistake } from './mistake.js';

/** Those who wait, each inside of the one before. */
const waiting: (() => void)[] = [];

/** The last of them knows best what never comes. */
const tellLast = (): void => waiting.at(-1)?.();

/**
 * What a promise yields. Where nothing is left that could make it yield, the process would end without a word.
 *
 * @throws {Mistake} with this message, then
 */
export const notForever = async <T>(work: Promise<T>, message: string): Promise<T> => {
  const never = new Promise<never>((_resolve, reject) => {
    waiting.push(() => reject(new Mistake(message)));
  });
  if (waiting.length === 1) process.on('beforeExit', tellLast);
  try {
    return await Promise.race([work, never]);
  } finally {
    waiting.pop();
    if (waiting.length === 0) process.off('beforeExit', tellLast);
  }
};
