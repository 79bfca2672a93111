import type { Server } from 'node:http';
import { monitorEventLoopDelay } from 'node:perf_hooks';

/** One side of a comparison, in a process of its own: its port is told to the parent, and how long its loop was held up. */
export const started = (server: Server): void => {
  const delay = monitorEventLoopDelay({ resolution: 1 });
  server.listen(0, '127.0.0.1', () => {
    const address = server.address();
    process.send?.(typeof address === 'object' ? address?.port : address);
  });
  process.on('message', (word) => {
    if (word === 'start') {
      delay.reset();
      delay.enable();
    } else {
      process.send?.(delay.percentile(99) / 1e6);
    }
  });
  process.once('disconnect', () => server.close());
};
