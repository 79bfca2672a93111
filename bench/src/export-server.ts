import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { nodeListener, serve } from '@gribo/http';
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
const server = createServer(nodeListener(handle));
server.listen(0, '127.0.0.1', () => process.send?.((server.address() as AddressInfo).port));
// The parent asks how much memory this process has.
process.on('message', () => process.send?.(process.memoryUsage.rss()));
process.once('disconnect', () => server.close());
