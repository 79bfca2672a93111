/** Work that is done sooner than this needs no word. */
const SOON = 300;

/**
 * Says on a terminal what is being done while it takes long, and takes it away at the end. Files and pipes see nothing of it.
 *
 * @param what a few words: `Reading the database`
 */
export const withProgress = async <T>(what: string, work: () => Promise<T>): Promise<T> => {
  if (process.stderr.isTTY !== true) return work();
  const began = performance.now();
  const say = (): void => {
    const seconds = Math.round((performance.now() - began) / 1000);
    process.stderr.write(`\r\u001b[K${what} …${seconds < 2 ? '' : ` ${seconds} s`}`);
  };
  const first = setTimeout(say, SOON);
  const again = setInterval(say, 1000);
  try {
    return await work();
  } finally {
    clearTimeout(first);
    clearInterval(again);
    process.stderr.write('\r\u001b[K');
  }
};
