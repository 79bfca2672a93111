import { serve } from '@gribo/http';
import { serve as host } from '@hono/node-server';
import { api, collection, memoryStore } from 'gribo';
import { db, PositionLines, reports } from './positions.js';

const office = api({
  title: 'Positions',
  version: '1.0.0',
  endpoints: { positions: collection('/positions', db.positionReport, { list: PositionLines }) },
});

async function* source(): AsyncGenerator<object> {
  yield* reports();
}

const handle = serve(office, { store: memoryStore(db), handlers: { 'positions.list': () => source() } });
const server = host({ fetch: handle, hostname: '127.0.0.1', port: 0 }, ({ port }) => process.send?.(port));
// The parent asks how much memory this process has.
process.on('message', () => process.send?.(process.memoryUsage.rss()));
process.once('disconnect', () => server.close());
