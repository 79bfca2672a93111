import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { nodeListener, serve } from '@gribo/http';
import { harbour } from './api.js';
import { callerOf } from './caller.js';
import { NOW } from './data.js';
import { handlers } from './handlers.js';
import { harbourStore } from './store.js';

const store = await harbourStore();
const handle = serve(harbour, {
  store,
  caller: callerOf,
  handlers,
  now: () => NOW,
  formatParameter: true,
  health: '/health',
});
const server = createServer(nodeListener(handle));

const lines = (address: string): string => `The Merrow Harbour Office answers at ${address}; Ctrl+C ends it.

  curl ${address}/vessels/3
  curl '${address}/vessels?size=5&sort=builtYear+desc' -H 'Accept: text/csv'
  curl ${address}/berths/2 -H 'Accept: application/xml' -H 'Authorization: Bearer demo-office'
  curl ${address}/vessels -H 'Authorization: Bearer demo-agent' -H 'Content-Type: application/json' -d '{"name":"Anselma","kind":"submarine"}'
`;

server.listen(Number(process.env['PORT'] ?? 8080), '127.0.0.1', () => {
  const { port } = server.address() as AddressInfo;
  process.stdout.write(lines(`http://127.0.0.1:${port}`));
});

/** What is asked by now is answered, and then it ends. */
const end = async (): Promise<void> => {
  await handle.close({ within: 10_000, server });
  await store.close?.();
};
process.once('SIGINT', () => void end());
process.once('SIGTERM', () => void end());
