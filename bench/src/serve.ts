import { type ChildProcess, fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import autocannon from 'autocannon';

const ROUNDS = 5;
const SECONDS = 2;
const PATH = '/vessels?size=50&page=3';

/** The ratio of requests per second to reach. */
const AT_LEAST = 1.2;

interface Side {
  readonly process: ChildProcess;
  readonly url: string;
}

const started = async (name: 'hand' | 'gribo'): Promise<Side> => {
  const child = fork(fileURLToPath(new URL('serve-server.js', import.meta.url)), [name]);
  const port = await new Promise((resolve, reject) => {
    child.once('message', resolve);
    child.once('error', reject);
    child.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
  return { process: child, url: `http://127.0.0.1:${port}${PATH}` };
};

const median = (numbers: readonly number[]): number =>
  [...numbers].sort((a, b) => a - b)[Math.floor(numbers.length / 2)] ?? Number.NaN;

const rate = async (url: string, duration: number): Promise<number> => {
  const { requests, non2xx, errors } = await autocannon({ url, connections: 8, duration });
  if (non2xx + errors > 0) throw new Error(`${url}: ${non2xx + errors} requests failed`);
  return requests.average;
};

/** Requests per second over loopback, both servers in turns; true where the ratio was reached. */
export const benchServe = async (): Promise<boolean> => {
  const sides = [await started('hand'), await started('gribo')] as const;
  const [hand, gribo] = sides;
  try {
    const [one, other] = await Promise.all(sides.map(async ({ url }) => (await fetch(url)).text()));
    if (one !== other) throw new Error('serve: the two responses differ');
    for (const { url } of sides) await rate(url, 1);
    const rounds: (readonly [number, number])[] = [];
    for (let i = 0; i < ROUNDS; i++)
      rounds.push([await rate(hand.url, SECONDS), await rate(gribo.url, SECONDS)]);
    const ratio = median(rounds.map(([a, b]) => b / a));
    const shown = (side: 0 | 1): string => median(rounds.map((round) => round[side])).toFixed(0);
    console.log(
      `${'GET of a page of 50 vessels, over loopback'.padEnd(44)} by hand ${shown(0)}/s  gribo ${shown(1)}/s  ${ratio.toFixed(2)}× (bar: ${AT_LEAST}×)`,
    );
    return ratio >= AT_LEAST;
  } finally {
    for (const side of sides) {
      side.process.removeAllListeners('exit');
      side.process.kill();
    }
  }
};
