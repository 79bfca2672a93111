import { type ChildProcess, fork } from 'node:child_process';
import { once } from 'node:events';
import { fileURLToPath } from 'node:url';
import autocannon from 'autocannon';
import { type Figure, median } from './figure.js';

const ROUNDS = 5;
const SECONDS = 2;

/** Servers that answer the same, and what they are asked. */
interface HttpCase {
  readonly name: string;
  /** The script that starts each, beside this one. */
  readonly script: string;
  readonly path: string;
  readonly body?: string;
  /** Those that are written by hand, each with the ratio of requests per second to reach; 0 where there is none. */
  readonly sides: Readonly<Record<string, number>>;
}

interface Side {
  readonly process: ChildProcess;
  readonly url: string;
}

/** The next thing that a process says. */
const said = async (child: ChildProcess): Promise<unknown> => {
  const gone = new AbortController();
  const ended = once(child, 'exit', { signal: gone.signal }).then(([code]) => {
    throw new Error(`the server ended with ${code}`);
  });
  try {
    // What it says, or that it ended; the one that is left is given up.
    const [word] = (await Promise.race([
      once(child, 'message', { signal: gone.signal }),
      ended,
    ])) as unknown[];
    return word;
  } finally {
    gone.abort();
    ended.catch(() => undefined);
  }
};

const started = async ({ script, path }: HttpCase, name: string): Promise<Side> => {
  const child = fork(fileURLToPath(new URL(script, import.meta.url)), [name]);
  const port = await said(child);
  return { process: child, url: `http://127.0.0.1:${port}${path}` };
};

const requestOf = ({ body }: HttpCase) =>
  body === undefined
    ? {}
    : ({ method: 'POST', body, headers: { 'content-type': 'application/json' } } as const);

const answerOf = async (one: HttpCase, { url }: Side): Promise<string> => {
  const response = await fetch(url, requestOf(one));
  return `${response.status} ${response.headers.get('location')} ${await response.text()}`;
};

/** What a server did in one round. */
interface Round {
  /** Requests a second. */
  readonly rate: number;
  /** Milliseconds that its loop was held up, but for one time in a hundred. */
  readonly delay: number;
}

const roundOf = async (one: HttpCase, { url, process: child }: Side, duration: number): Promise<Round> => {
  child.send('start');
  const options = { url, connections: 8, duration, ...requestOf(one) };
  const { requests, non2xx, errors } = await autocannon(options);
  if (non2xx + errors > 0) throw new Error(`${url}: ${non2xx + errors} requests failed`);
  const delay = said(child);
  child.send('stop');
  return { rate: requests.average, delay: Number(await delay) };
};

/** One server against ours, in turns. */
const compareTwo = async (
  one: HttpCase,
  [name, atLeast]: readonly [string, number],
  [hand, gribo]: readonly [Side, Side],
): Promise<Figure> => {
  const [first, other] = await Promise.all([hand, gribo].map((side) => answerOf(one, side)));
  if (first !== other)
    throw new Error(`${one.name}: the responses of ${name} and gribo differ\n${first}\n${other}`);
  for (const side of [hand, gribo]) await roundOf(one, side, 1);
  const rounds: (readonly [Round, Round])[] = [];
  for (let i = 0; i < ROUNDS; i++)
    rounds.push([await roundOf(one, hand, SECONDS), await roundOf(one, gribo, SECONDS)]);
  const [theirs, ours] = ([0, 1] as const).map((side) => median(rounds.map((round) => round[side].rate)));
  const loop = ([0, 1] as const).map((side) => median(rounds.map((round) => round[side].delay)).toFixed(1));
  return {
    what: one.name,
    than: name,
    theirs: theirs ?? Number.NaN,
    ours: ours ?? Number.NaN,
    unit: 'per s',
    ratio: median(rounds.map(([a, b]) => b.rate / a.rate)),
    bar: atLeast === 0 ? null : atLeast,
    beside: `loop held up ${loop.join(' and ')} ms`,
  };
};

/** Requests per second over loopback, by hand and by us. */
const compareServers = async (one: HttpCase): Promise<readonly Figure[]> => {
  const gribo = await started(one, 'gribo');
  const all: Side[] = [gribo];
  const figures: Figure[] = [];
  try {
    for (const side of Object.entries(one.sides)) {
      const hand = await started(one, side[0]);
      all.push(hand);
      figures.push(await compareTwo(one, side, [hand, gribo]));
    }
    return figures;
  } finally {
    for (const { process: child } of all) child.kill();
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

/** What servers answer over HTTP. */
export const benchServe = async (): Promise<readonly Figure[]> => {
  const paged = await compareServers({
    name: 'GET of a page of 50 vessels',
    script: 'serve-server.js',
    path: '/vessels?size=50&page=3',
    sides: { raw: 2, Fastify: 0, Express: 0 },
  });
  const read = await compareServers({
    name: 'GET of one vessel',
    script: 'serve-server.js',
    path: '/vessels/17',
    sides: { raw: 1.3, Fastify: 0, Express: 0 },
  });
  const posted = await compareServers({
    name: 'POST of one vessel',
    script: 'post-server.js',
    path: '/vessels',
    body: BODY,
    sides: { raw: 1.5 },
  });
  return [...paged, ...read, ...posted];
};
