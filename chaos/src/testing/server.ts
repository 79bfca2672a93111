import cluster from 'node:cluster';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import { nodeListener, serve } from '@gribo/http';
import { openDatabase, sqlStore } from '@gribo/sql';
import { stock } from '../../../packages/gribo/src/testing/stock.js';
import { harbourOffice } from './ledger.js';

/** A process that serves the ledger from the database at `DATABASE`, or as many of them as `WORKERS` says on one port. */
const { DATABASE = '', READS = '', PORT = '0', WORKERS = '0' } = process.env;

/** What its parent is told of it when it asks. */
export interface Measured {
  readonly rss: number;
  readonly heap: number;
  /** What keeps it going: sockets, timers, files. */
  readonly handles: number;
  /** Milliseconds that 99 of 100 turns of its event loop are below. */
  readonly p99: number;
}

const served = async (): Promise<void> => {
  const store = sqlStore(stock, await openDatabase(DATABASE));
  const reads = READS === '' ? [] : [sqlStore(stock, await openDatabase(READS))];
  const log = { error: (about: object, message: string) => console.error(message, about) };
  const handle = serve(harbourOffice, { store, reads, health: '/health', log });
  const server = createServer(nodeListener(handle));
  await new Promise<void>((resolve) => server.listen(Number(PORT), '127.0.0.1', resolve));
  process.send?.({ port: (server.address() as AddressInfo).port });
  const delay = monitorEventLoopDelay({ resolution: 5 });
  delay.enable();
  process.on('message', () => {
    globalThis.gc?.();
    const { rss, heapUsed: heap } = process.memoryUsage();
    const handles = process.getActiveResourcesInfo().length;
    process.send?.({ rss, heap, handles, p99: delay.percentile(99) / 1e6 } satisfies Measured);
  });
  process.once('SIGTERM', async () => {
    await handle.close({ within: 10_000, server });
    await Promise.all([store, ...reads].map((one) => one.close?.()));
    process.disconnect?.();
  });
};

/** Workers that come again one after the other, so that somebody always answers. */
const led = (): void => {
  for (let i = 0; i < Number(WORKERS); i++) cluster.fork();
  let isTold = false;
  cluster.on('message', (_worker, message: object) => {
    if (!isTold) process.send?.(message);
    isTold = true;
  });
  const others = (): ReturnType<typeof cluster.fork>[] =>
    Object.values(cluster.workers ?? {}).filter((worker) => worker !== undefined);
  process.on('SIGHUP', async () => {
    for (const worker of others()) {
      await new Promise((resolve) => cluster.fork().once('listening', resolve));
      worker.process.kill('SIGTERM');
      await new Promise((resolve) => worker.once('exit', resolve));
    }
    process.send?.({ renewed: true });
  });
  process.once('SIGTERM', async () => {
    await Promise.all(
      others().map((worker) => {
        worker.process.kill('SIGTERM');
        return new Promise((resolve) => worker.once('exit', resolve));
      }),
    );
    process.disconnect?.();
  });
};

if (cluster.isPrimary && Number(WORKERS) > 0) led();
else await served();
