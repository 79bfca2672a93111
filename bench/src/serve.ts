import { type ChildProcess, fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import autocannon from 'autocannon';

const ROUNDS = 5;
const SECONDS = 2;

/** Two servers that answer the same, and what they are asked. */
interface HttpCase {
  readonly name: string;
  /** The script that starts either, beside this one. */
  readonly script: string;
  readonly path: string;
  readonly body?: string;
  /** The ratio of requests per second to reach; 0 where there is none. */
  readonly atLeast: number;
}

interface Side {
  readonly process: ChildProcess;
  readonly url: string;
}

const started = async ({ script, path }: HttpCase, name: 'hand' | 'gribo'): Promise<Side> => {
  const child = fork(fileURLToPath(new URL(script, import.meta.url)), [name]);
  const port = await new Promise((resolve, reject) => {
    child.once('message', resolve);
    child.once('error', reject);
    child.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
  return { process: child, url: `http://127.0.0.1:${port}${path}` };
};

const median = (numbers: readonly number[]): number =>
  [...numbers].sort((a, b) => a - b)[Math.floor(numbers.length / 2)] ?? Number.NaN;

const requestOf = ({ body }: HttpCase) =>
  body === undefined
    ? {}
    : ({ method: 'POST', body, headers: { 'content-type': 'application/json' } } as const);

const answerOf = async (one: HttpCase, { url }: Side): Promise<string> => {
  const response = await fetch(url, requestOf(one));
  return `${response.status} ${response.headers.get('location')} ${await response.text()}`;
};

const rate = async (one: HttpCase, { url }: Side, duration: number): Promise<number> => {
  const options = { url, connections: 8, duration, ...requestOf(one) };
  const { requests, non2xx, errors } = await autocannon(options);
  if (non2xx + errors > 0) throw new Error(`${url}: ${non2xx + errors} requests failed`);
  return requests.average;
};

/** Requests per second over loopback, both servers in turns; true where the ratio was reached. */
const compareServers = async (one: HttpCase): Promise<boolean> => {
  const sides = [await started(one, 'hand'), await started(one, 'gribo')] as const;
  const [hand, gribo] = sides;
  try {
    const [first, other] = await Promise.all(sides.map((side) => answerOf(one, side)));
    if (first !== other) throw new Error(`${one.name}: the two responses differ\n${first}\n${other}`);
    for (const side of sides) await rate(one, side, 1);
    const rounds: (readonly [number, number])[] = [];
    for (let i = 0; i < ROUNDS; i++)
      rounds.push([await rate(one, hand, SECONDS), await rate(one, gribo, SECONDS)]);
    const ratio = median(rounds.map(([a, b]) => b / a));
    const shown = (side: 0 | 1): string => median(rounds.map((round) => round[side])).toFixed(0);
    const goal = one.atLeast === 0 ? '' : ` (bar: ${one.atLeast}×)`;
    console.log(
      `${one.name.padEnd(44)} by hand ${shown(0)}/s  gribo ${shown(1)}/s  ${ratio.toFixed(2)}×${goal}`,
    );
    return ratio >= one.atLeast;
  } finally {
    for (const side of sides) {
      side.process.removeAllListeners('exit');
      side.process.kill();
    }
  }
};

const BODY = JSON.stringify({
  name: 'Marrowgate',
  callSign: 'QMA3',
  imoNumber: '9312457',
  built: 2019,
  size: { tonnage: 412.5 },
  active: true,
  registeredAt: '2026-03-01T06:30:00.000Z',
  notes: 'Ice class, two thrusters.',
});

/** What two servers answer over HTTP; true where every ratio was reached. */
export const benchServe = async (): Promise<boolean> => {
  const paged = await compareServers({
    name: 'GET of a page of 50 vessels, over loopback',
    script: 'serve-server.js',
    path: '/vessels?size=50&page=3',
    atLeast: 1.2,
  });
  const posted = await compareServers({
    name: 'POST of one vessel, over loopback',
    script: 'post-server.js',
    path: '/vessels',
    body: BODY,
    atLeast: 0,
  });
  return paged && posted;
};
