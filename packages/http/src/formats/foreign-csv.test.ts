import { spawnSync } from 'node:child_process';
import { expect } from 'chai';
import { api, collection, entity, integer, list, memoryStore, model, shape, text } from 'gribo';
import { csv, serve } from '../index.js';

const db = model(
  { note: entity('note', { id: integer().key(), text: text().nullable(), more: text() }) },
  {},
);
const Note = shape(db.note, (n) => ({ id: n.id, text: n.text, more: n.more }), { name: 'Note' });
const notes = api({
  title: 'Notes',
  version: '1',
  endpoints: { notes: collection('/notes', db.note, { list: list(Note) }) },
});

const PIECES = [
  'a',
  '"',
  ',',
  ';',
  '\n',
  '\r',
  '\r\n',
  ' ',
  '\t',
  "'",
  '=',
  '1',
  'é',
  '🚢',
  '\u2028',
  '\\',
  '#',
  '\ufeff',
];

/** Texts made of all that a parser could stumble over. */
const TEXTS: readonly string[] = [
  ...PIECES,
  ...PIECES.flatMap((one) => PIECES.map((other) => `x${one}${other}y`)),
  ...PIECES.map((piece) => `${piece}${piece}`),
];

const rows = TEXTS.map((value, i) => ({ id: i + 1, text: value, more: `end ${i}` }));

/** What Python's own reader, held to the standard, makes of it: no guess about the end of a line. */
const READ = `
import csv, io, json, sys
text = io.TextIOWrapper(sys.stdin.buffer, encoding='utf-8', newline='').read()
print(json.dumps(list(csv.reader(io.StringIO(text, newline=''), strict=True))))
`;

describe('CSV that Python reads', () => {
  const table = async (options = {}): Promise<string> => {
    const handle = serve(notes, { store: memoryStore(db, { note: rows }), formats: [csv(options)] });
    return (await handle(new Request('http://n.test/notes', { headers: { accept: 'text/csv' } }))).text();
  };

  it(`has ${TEXTS.length} records, each as it was stored`, async function () {
    const { status, error, stdout } = spawnSync('python3', ['-c', READ], {
      input: await table(),
      encoding: 'utf8',
    });
    if (error !== undefined) return this.skip();
    expect(status).to.equal(0);
    const [header, ...records] = JSON.parse(stdout) as string[][];
    expect(header).to.deep.equal(['id', 'text', 'more']);
    expect(records).to.deep.equal(rows.map(({ id, text: value, more }) => [String(id), value, more]));
  });

  it('starts no line with a formula, where formulas are guarded', async () => {
    const values = ['=1+1', 'x\n=1+1', 'x\r=1+1', '\n=1+1', '\t=1+1', '@x', '+1', '-1'];
    const stored = values.map((value, i) => ({ id: i + 1, text: value, more: '' }));
    const handle = serve(notes, {
      store: memoryStore(db, { note: stored }),
      formats: [csv({ guardFormulas: true })],
    });
    const whole = await (await handle(new Request('http://n.test/notes'))).text();
    // Outside of quotes, no line and no cell may begin with what a spreadsheet runs.
    const bare = whole.replace(/"(?:[^"]|"")*"/g, '""');
    expect(bare).to.not.match(/(?:^|,|[\r\n])[=+\-@\t]/m);
  });
});
