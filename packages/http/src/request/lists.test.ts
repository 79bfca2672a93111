import { encode } from 'cborg';
import { expect } from 'chai';
import fc from 'fast-check';
import {
  api,
  bigint,
  collection,
  entity,
  input,
  integer,
  list,
  memoryStore,
  model,
  optional,
  preset,
  shape,
  text,
  toMany,
  toOne,
} from 'gribo';
import { runs } from '../../../gribo/src/testing/cases.js';
import { receive, type ServeOptions, serve } from '../index.js';
import { keepingLog } from '../testing/ask.js';

const db = model(
  {
    fleet: entity('fleet', { id: integer().key().generated(), name: text() }),
    boat: entity('boat', {
      id: integer().key().generated(),
      name: text({ min: 1, max: 12 }),
      sign: text().nullable().unique(),
      built: integer({ min: 1850, max: 2100 }),
      weight: bigint().nullable(),
      note: text(),
      fleetId: integer().nullable(),
    }),
    log: entity('log', { id: integer().key().generated(), boatId: integer(), said: text() }),
  },
  {
    boat: { fleet: toOne('fleet', 'fleetId'), logs: toMany('log', 'boatId') },
    log: { boat: toOne('boat', 'boatId') },
  },
);

const NewLog = input(db.log, ({ said }) => ({ said }));
const NewBoat = input(db.boat, (b) => ({
  name: b.name,
  sign: optional(b.sign),
  more: { built: b.built, weight: optional(b.weight) },
  note: preset(b.note, ''),
  logs: optional(NewLog(b.logs)),
}));
const Boat = shape(db.boat, (b) => ({
  id: b.id,
  name: b.name,
  sign: b.sign,
  weight: b.weight,
  note: b.note,
}));

const fleets = api({
  title: 'Fleets',
  version: '1',
  endpoints: {
    boats: collection('/boats', db.boat, { list: list(Boat), create: { takes: list(NewBoat) } }),
    boatsOf: collection('/fleets/{fleet}/boats', db.boat, {
      under: 'fleet',
      create: { takes: list(NewBoat) },
    }),
  },
});

const open = (options: Partial<ServeOptions<typeof fleets>> = {}) => {
  const { log } = keepingLog();
  const store = memoryStore(db, { fleet: [{ id: 7, name: 'East' }] });
  const handle = serve(fleets, { store, log, ...options });
  const ask = async (path: string, type: string, body: BodyInit) => {
    const headers = { 'content-type': type };
    const response = await handle(
      new Request(`http://fleets.test${path}`, { method: 'POST', headers, body }),
    );
    const said = await response.text();
    return {
      status: response.status,
      headers: response.headers,
      json: said === '' ? null : JSON.parse(said),
    };
  };
  const names = async () =>
    (await store.list({ entity: 'boat' } as never)).map((row) => (row as { name: string }).name);
  return { ask, names, store };
};

const told = (errors: readonly { pointer: string; code: string; line?: number }[]) =>
  errors.map(({ pointer, code, line }) => `${line ?? '-'} ${pointer} ${code}`);

const NDJSON = 'application/x-ndjson';
const boat = (name: string, rest: object = {}) => ({ name, more: { built: 1999 }, ...rest });
const lines = (...rows: readonly unknown[]) => rows.map((row) => `${JSON.stringify(row)}\n`).join('');

describe('lists that are taken', () => {
  it('come as JSON, CBOR, lines of JSON and CSV', async () => {
    const { ask, names, store } = open();
    const rows = [boat('A'), boat('Ö "x",', { logs: [{ said: 'one' }, { said: 'two' }] })];
    expect((await ask('/boats', 'application/json', JSON.stringify(rows))).status).to.equal(201);
    expect((await ask('/boats', NDJSON, `${lines(...rows)}\n \r\n`)).status).to.equal(201);
    expect((await ask('/boats', 'application/cbor', encode(rows))).status).to.equal(201);
    const csv = [
      '\ufeffname,sign,more.built,more.weight,note,logs',
      'B,,1999,12,"",',
      '"C\r\n""c""","",2000,,said,"[{""said"":""three""}]"',
      '',
    ].join('\r\n');
    const sent = await ask('/boats', 'text/csv', csv);
    expect(sent.status, JSON.stringify(sent.json)).to.equal(201);
    expect(await names()).to.deep.equal(['A', 'Ö "x",', 'A', 'Ö "x",', 'A', 'Ö "x",', 'B', 'C\r\n"c"']);
    const found = (await store.list({ entity: 'boat' } as never)) as {
      sign: string | null;
      weight: bigint | null;
    }[];
    // Nothing is null, and empty text is empty text.
    expect(found.slice(-2).map(({ sign, weight }) => [sign, weight])).to.deep.equal([
      [null, 12n],
      ['', null],
    ]);
    expect(await store.count('log')).to.equal(7);
  });

  it('come back from what was written, whatever is in it', async () => {
    const odd = model(
      {
        odd: entity('odd', {
          id: integer().key(),
          one: text().nullable(),
          two: text(),
          three: text().nullable(),
        }),
      },
      {},
    );
    const Odd = shape(odd.odd, (o) => ({ id: o.id, one: o.one, in: { two: o.two, three: o.three } }));
    const NewOdd = input(odd.odd, (o) => ({ id: o.id, one: o.one, in: { two: o.two, three: o.three } }));
    const odds = api({
      title: 'Odd',
      version: '1',
      endpoints: { odd: collection('/odd', odd.odd, { list: list(Odd), create: { takes: list(NewOdd) } }) },
    });
    const piece = fc.constantFrom(
      '',
      ' ',
      '"',
      '""',
      ',',
      '\n',
      '\r',
      '\r\n',
      'a',
      'ü',
      '😀',
      "'",
      '\t',
      '=1',
    );
    const any = fc.array(piece, { maxLength: 4 }).map((pieces) => pieces.join(''));
    const rows = fc.array(fc.record({ one: fc.option(any), two: any, three: fc.option(any) }), {
      maxLength: 6,
    });
    await fc.assert(
      fc.asyncProperty(rows, fc.constantFrom('text/csv', NDJSON, 'application/cbor'), async (made, type) => {
        const stored = made.map((row, i) => ({ id: i + 1, ...row }));
        const from = serve(odds, { store: memoryStore(odd, { odd: stored }) });
        const sent = await from(new Request('http://odd.test/odd', { headers: { accept: type } }));
        const store = memoryStore(odd, {});
        const init = { method: 'POST', headers: { 'content-type': type }, body: await sent.arrayBuffer() };
        const response = await serve(odds, { store })(new Request('http://odd.test/odd', init));
        expect(response.status, await response.text()).to.equal(201);
        const plan = { entity: 'odd' } as never;
        const plain = (row: object) => ({ ...row });
        expect((await store.list(plan)).map(plain)).to.deep.equal(stored);
      }),
      runs(300),
    );
  });

  it('are stored whole or not at all, and everything that is wrong is told, by rows and lines', async () => {
    const { ask, names } = open();
    const rows = lines(boat('A'), boat(''), { more: {} }, boat('B', { nmae: 1 }), boat('C'));
    const { status, json } = await ask('/boats', NDJSON, `\n${rows}`);
    expect(status).to.equal(422);
    expect(told(json.errors)).to.deep.equal([
      '3 /1/name length',
      '4 /2/more/built required',
      '4 /2/name required',
      '5 /3/nmae unknown',
    ]);
    const csv = 'name,more.built,knd,nmae\nA,1,x,y\n"B\nb",1999,x,\n,2000,,z\n';
    const bad = await ask('/boats', 'text/csv', csv);
    // Names that are unknown are told once.
    expect(told(bad.json.errors)).to.deep.equal([
      '2 /0/more/built range',
      '2 /0/knd unknown',
      '2 /0/nmae unknown',
      '5 /2/name required',
    ]);
    const all = await ask('/boats', 'application/json', JSON.stringify([boat('A'), 5]));
    expect(told(all.json.errors)).to.deep.equal(['- /1 type']);
    expect(await names()).to.deep.equal([]);
  });

  it('tell which row does not fit what is stored, or another one of them', async () => {
    const { ask, names } = open();
    const body = lines(boat('A', { sign: 'X' }), boat('B'), boat('C', { sign: 'X' }));
    const { status, json } = await ask('/boats', NDJSON, body);
    expect(status).to.equal(409);
    expect(told(json.errors)[0]).to.match(/^[13] \/[02]\/sign conflict$/);
    expect(await names()).to.deep.equal([]);
  });

  it('that are none are refused, with the line', async () => {
    const { ask, names } = open();
    const wrong = async (type: string, body: BodyInit): Promise<string> => {
      const { status, json } = await ask('/boats', type, body);
      return [status, ...told(json.errors ?? [])].join(' | ');
    };
    expect(await wrong('application/json', '{"name":"A"}')).to.equal('400 | -  syntax');
    expect(await wrong('application/json', '[{"name":"A"')).to.equal('400 | 1  syntax');
    expect(await wrong('application/json', `${'['.repeat(60)}${']'.repeat(60)}`)).to.match(
      /^413 \| .* limit$/,
    );
    expect(await wrong('application/cbor', encode({ name: 'A' }))).to.equal('400 | -  syntax');
    expect(await wrong(NDJSON, `${lines(boat('A'))}{"name":\n`)).to.equal('400 | 2 /1 syntax');
    expect(await wrong(NDJSON, Uint8Array.of(0xff, 10))).to.equal('400 | 1 /0 syntax');
    expect(await wrong('text/csv', 'name,name\nA,B\n')).to.equal('400 | - /name syntax');
    expect(await wrong('text/csv', 'name,more.built\nA,1999\nB\n')).to.equal('400 | 3  syntax');
    expect(await wrong('text/csv', 'name,more.built\nA,1999\n"B')).to.equal('400 | 3  syntax');
    expect(await wrong('text/csv', Uint8Array.of(0x41, 0xff))).to.equal('400 | -  syntax');
    expect(await wrong('application/xml', '<boats/>')).to.equal('415');
    const { headers } = await ask('/boats', 'application/merge-patch+json', '[]');
    expect(headers.get('accept')).to.equal(
      'application/json, text/csv, application/cbor, application/x-ndjson, application/jsonl',
    );
    expect(await names()).to.deep.equal([]);
  });

  it('are bounded: bytes of a row, of the whole, and how much is told', async () => {
    const limits = { body: 300, list: 2000 };
    const { ask } = open({ limits });
    const many = lines(...Array.from({ length: 40 }, (_, i) => boat(`B${i}`)));
    expect((await ask('/boats', NDJSON, many)).status).to.equal(201);
    expect((await ask('/boats', NDJSON, many + many)).status, 'the whole').to.equal(413);
    expect((await ask('/boats', NDJSON, lines(boat('A', { note: 'x'.repeat(400) })))).status).to.equal(400);
    expect((await ask('/boats', 'text/csv', `name\n"${'x'.repeat(400)}`)).status, 'a row').to.equal(400);
    expect(
      (await ask('/boats', 'application/json', JSON.stringify(Array(40).fill(boat('A'))))).status,
    ).to.equal(413);
    const { json } = await open().ask('/boats', NDJSON, '{}\n'.repeat(500));
    expect(json.errors).to.have.length(101);
    expect(json.errors.at(-1)).to.include({ code: 'limit' });
  });

  it('are under their parent', async () => {
    const { ask, store } = open();
    expect((await ask('/fleets/7/boats', NDJSON, lines(boat('A')))).status).to.equal(201);
    expect((await ask('/fleets/8/boats', NDJSON, lines(boat('A')))).status).to.equal(404);
    const rows = (await store.list({ entity: 'boat' } as never)) as { fleetId: number }[];
    expect(rows.map(({ fleetId }) => fleetId)).to.deep.equal([7]);
  });

  it('are given to a handler row by row, who may hand on others', async () => {
    const { ask, names } = open({
      handlers: {
        'boats.create': async ({ input: rows, proceed }) => {
          const kept = async function* () {
            for await (const row of rows) if (row.name !== 'B') yield { ...row, note: 'seen' };
          };
          await proceed(kept());
        },
      },
    });
    expect((await ask('/boats', NDJSON, lines(boat('A'), boat('B'), boat('C')))).status).to.equal(201);
    expect(await names()).to.deep.equal(['A', 'C']);
  });

  it('that are not wanted are not read to their end', async () => {
    const endless = () => {
      let isCancelled = false;
      const body = new ReadableStream<Uint8Array>({
        pull: async (controller) => {
          controller.enqueue(new TextEncoder().encode(lines(boat('A')).repeat(50)));
          await new Promise((resolve) => setTimeout(resolve, 1));
        },
        cancel: () => {
          isCancelled = true;
        },
      });
      return { body, isCancelled: () => isCancelled };
    };
    const { store } = open();
    const handle = serve(fleets, { store, handlers: { 'boats.create': () => undefined } });
    // Its parent is not there; its handler looks at none of them.
    for (const [path, status] of [
      ['/fleets/8/boats', 404],
      ['/boats', 201],
    ] as const) {
      const { body, isCancelled } = endless();
      const init = { method: 'POST', headers: { 'content-type': NDJSON }, body, duplex: 'half' };
      const response = await handle(new Request(`http://fleets.test${path}`, init as RequestInit));
      expect(response.status, path).to.equal(status);
      await new Promise((resolve) => setTimeout(resolve, 20));
      expect(isCancelled(), path).to.equal(true);
    }
    expect(await store.count('boat')).to.equal(0);
  });

  it('are received whole by those who keep their own routes, up to a limit', async () => {
    const request = () =>
      new Request('http://fleets.test/boats', {
        method: 'POST',
        headers: { 'content-type': NDJSON },
        body: lines(boat('A'), boat('B')),
      });
    const got = await receive(fleets, 'boats.create', request());
    expect(got.ok && got.value.map(({ name }) => name)).to.deep.equal(['A', 'B']);
    const tooMany = await receive(fleets, 'boats.create', request(), { limits: { rows: 1 } });
    expect(!tooMany.ok && tooMany.response.status).to.equal(413);
  });

  it('are read while they arrive: a store is not asked before the first rows are there', async () => {
    const seen: string[] = [];
    const { store } = open();
    const watching = serve(fleets, {
      store: Object.assign(Object.create(store), {
        createAll: async (_entity: string, batches: AsyncIterable<readonly object[]>) => {
          seen.push('asked');
          let count = 0;
          for await (const batch of batches) count += batch.length;
          seen.push(`stored ${count}`);
          return count;
        },
      }),
    });
    const body = new ReadableStream<Uint8Array>({
      start: async (controller) => {
        for (let i = 0; i < 2500; i++) {
          controller.enqueue(new TextEncoder().encode(lines(boat(`B${i}`))));
          if (i === 10) {
            await new Promise((resolve) => setTimeout(resolve, 20));
            seen.push('still sending');
          }
        }
        controller.close();
      },
    });
    const init = { method: 'POST', headers: { 'content-type': NDJSON }, body, duplex: 'half' };
    const response = await watching(new Request('http://fleets.test/boats', init as RequestInit));
    expect(response.status).to.equal(201);
    expect(seen).to.deep.equal(['still sending', 'asked', 'stored 2500']);
  });
});
