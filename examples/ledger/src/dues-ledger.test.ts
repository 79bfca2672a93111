import { execFile } from 'node:child_process';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import { nodeListener, serve } from '@gribo/http';
import { harbour } from '@gribo-examples/harbour/src/api.js';
import { callerOf } from '@gribo-examples/harbour/src/caller.js';
import { harbourData, NOW } from '@gribo-examples/harbour/src/data.js';
import { handlers } from '@gribo-examples/harbour/src/handlers.js';
import { db } from '@gribo-examples/harbour/src/model.js';
import { expect } from 'chai';
import { memoryStore } from 'gribo';

const LEDGER = fileURLToPath(new URL('../build/main.js', import.meta.url));

interface Printed {
  readonly code: number | null;
  readonly lines: readonly string[];
  readonly wrong: string;
}

const printed = (...args: readonly string[]): Promise<Printed> =>
  new Promise((resolve) => {
    const child = execFile(process.execPath, [LEDGER, ...args], (_error, out, wrong) =>
      resolve({ code: child.exitCode, lines: out.trimEnd().split('\n'), wrong }),
    );
  });

describe('the ledger, written for the first edition', () => {
  let now = NOW;
  let server: Server;
  let address: string;
  before(async () => {
    const store = memoryStore(db, harbourData());
    const handle = serve(harbour, { store, caller: callerOf, handlers, now: () => now });
    server = createServer(nodeListener(handle));
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  });
  after(() => {
    server.close();
    server.closeAllConnections();
  });

  it('reads what it always read', async () => {
    const { code, lines, wrong } = await printed(address);
    expect([code, wrong]).to.deep.equal([0, '']);
    expect(lines).to.have.length(6);
    expect(lines[0]).to.match(/^.+ \(known since \d{4}-\d\d-\d\d\), \w+: \d+\.\d\d$/);
    expect(lines.at(-1)).to.match(/^\d+ pilots$/);
  });

  it('is told what it may not see, when its edition has ended, and where nobody answers', async () => {
    expect(await printed(address, 'demo-agent')).to.deep.include({
      code: 1,
      wrong: 'This is not for you.\n',
    });
    now = new Date('2027-01-01T00:00:00Z');
    expect(await printed(address)).to.deep.include({
      code: 1,
      wrong: 'The edition "2025-11" has ended. There are: 2026-02, 2026-05.\n',
    });
    const nowhere = await printed('http://127.0.0.1:1');
    expect([nowhere.code, nowhere.wrong]).to.satisfy(
      ([code, wrong]: [number, string]) =>
        code === 1 && wrong.startsWith('http://127.0.0.1:1 does not answer: '),
    );
  });
});
