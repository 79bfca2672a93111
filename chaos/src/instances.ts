import type { Ask } from './testing/ledger.js';
import { filled } from './testing/opened.js';
import { Postgres } from './testing/postgres.js';
import { ServedProcess } from './testing/served.js';

/** How many requests so many processes answer: what docs/scaling.md has. Run it by hand. */
const SECONDS = 4;
const CLIENTS = 32;

const perSecond = async (ask: Ask, one: (ask: Ask, i: number) => ReturnType<Ask>): Promise<number> => {
  const end = performance.now() + SECONDS * 1000;
  let answered = 0;
  const client = async (n: number): Promise<void> => {
    for (let i = n; performance.now() < end; i += CLIENTS) {
      const { status } = await one(ask, i);
      if (status >= 300) throw new Error(`answered ${status}`);
      answered += 1;
    }
  };
  await Promise.all(Array.from({ length: CLIENTS }, (_, n) => client(n)));
  return Math.round(answered / SECONDS);
};

const WORK: Readonly<Record<string, (ask: Ask, i: number) => ReturnType<Ask>>> = {
  'a row': (ask, i) => ask('GET', `/vessels/${(i % 5) + 1}`),
  'a row with its links': (ask, i) => ask('GET', `/operators/${(i % 3) + 1}`),
  'a new row': (ask) => ask('POST', '/operators', { name: crypto.randomUUID() }),
};

const server = await Postgres.start();
await filled(server.url);
for (const workers of [1, 2, 4]) {
  const service = await ServedProcess.start({ DATABASE: server.url, WORKERS: String(workers) });
  for (const work of Object.values(WORK)) await perSecond(service.ask, work);
  const found: string[] = [];
  for (const [name, work] of Object.entries(WORK))
    found.push(`${name} ${await perSecond(service.ask, work)}`);
  console.log(`${workers} processes: ${found.join(', ')} requests a second`);
  await service.end();
}
await server.stop();
