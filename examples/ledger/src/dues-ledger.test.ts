import { serve } from '@gribo/http';
import { harbour } from '@gribo-examples/harbour/src/api.js';
import { callerOf } from '@gribo-examples/harbour/src/caller.js';
import { harbourData, NOW } from '@gribo-examples/harbour/src/data.js';
import { handlers } from '@gribo-examples/harbour/src/handlers.js';
import { db } from '@gribo-examples/harbour/src/model.js';
import { expect } from 'chai';
import { memoryStore } from 'gribo';
import { duesLedger } from './dues-ledger.js';

describe('the ledger, written for the first edition', () => {
  const real = globalThis.fetch;
  afterEach(() => {
    globalThis.fetch = real;
  });

  const serving = (now: Date): void => {
    const store = memoryStore(db, harbourData());
    const handle = serve(harbour, { store, caller: callerOf, handlers, now: () => now });
    globalThis.fetch = (url, init) => handle(new Request(url as string, init));
  };

  it('reads what it always read, and is told when that ends', async () => {
    serving(NOW);
    const lines = await duesLedger('http://harbour.example', 'demo-office');
    expect(lines).to.have.length(6);
    expect(lines[0]).to.match(/^.+ \(known since \d{4}-\d\d-\d\d\), \w+: \d+\.\d\d$/);
    expect(lines.at(-1)).to.match(/^\d+ pilots$/);
    serving(new Date('2027-01-01T00:00:00Z'));
    const ended = await duesLedger('http://harbour.example', 'demo-office').catch(
      (error: Error) => error.message,
    );
    expect(ended).to.equal('The edition "2025-11" has ended. There are: 2026-02, 2026-05.');
  });
});
