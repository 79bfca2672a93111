import { execFile } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { serialize } from 'node:v8';
import { expect } from 'chai';
import type { Store } from 'gribo';
import { figures } from 'gribo/kit';
import { harbourStore } from './store.js';
import { serializerCase } from './testing/serializer-case.js';

const HOME = fileURLToPath(new URL('..', import.meta.url));
const BIN = fileURLToPath(new URL('../../../packages/cli/bin/gribo.js', import.meta.url));
const OUT = join(HOME, '.cache', 'serializers');
const run = promisify(execFile);

/** What a child process does, where no code may be generated: writes each file's rows by its serializer. */
const CHILD = `
import { readFileSync, writeFileSync } from 'node:fs';
import { deserialize } from 'node:v8';
const figures = Symbol.for('gribo.figures');
const revive = (value) => {
  if (Array.isArray(value)) return value.map(revive);
  if (value === null || typeof value !== 'object' || value instanceof Date || value instanceof Uint8Array) return value;
  const { __figures, ...rest } = value;
  const made = Object.fromEntries(Object.entries(rest).map(([name, inner]) => [name, revive(inner)]));
  return __figures === undefined ? made : Object.assign(made, { [figures]: __figures });
};
let forbidden = false;
try { new Function('return 1')(); } catch { forbidden = true; }
if (!forbidden) throw new Error('code may be generated here');
const all = deserialize(readFileSync('rows.bin'));
const results = {};
for (const [name, data] of Object.entries(all)) {
  const { json, bytes, object, stream } = await import('./serializers/' + name + '.js');
  const rows = revive(data);
  const text = json(rows);
  const same = [JSON.stringify(object(rows)), new TextDecoder().decode(bytes(rows)), await new Response(stream(rows)).text()];
  if (same.some((other) => other !== text)) throw new Error(name + ': its outputs differ');
  results[name] = text;
}
let refused = '';
try { (await import('./serializers/cargo.list.js')).json([{ id: 1 }]); } catch (error) { refused = error.message; }
writeFileSync('results.json', JSON.stringify({ results, refused }));
`;

/** Counts are kept under a symbol, which does not survive being serialized: a name stands in for it. */
const withNamedCounts = (value: unknown): unknown => {
  if (Array.isArray(value)) return value.map(withNamedCounts);
  if (value === null || typeof value !== 'object' || value instanceof Date || value instanceof Uint8Array)
    return value;
  const made = Object.fromEntries(
    Object.entries(value).map(([name, inner]) => [name, withNamedCounts(inner)]),
  );
  const counted = (value as Record<symbol, unknown>)[figures];
  return counted === undefined ? made : { ...made, __figures: counted };
};

describe('the stand-alone serializers of the harbour', () => {
  let store: Store;
  before(async () => {
    rmSync(OUT, { recursive: true, force: true });
    mkdirSync(OUT, { recursive: true });
    await run(
      process.execPath,
      [BIN, 'build', '--only', 'types,serializers', '--out', '.cache/serializers'],
      { cwd: HOME },
    );
    store = await harbourStore();
  });
  after(async () => store.close?.());

  it('write what the library writes, import nothing of it, and run where generated code is forbidden', async () => {
    const files = readdirSync(join(OUT, 'serializers')).filter((file) => file.endsWith('.js'));
    expect(files.length).to.be.above(40);
    const expected: Record<string, string> = {};
    const rowsOf: Record<string, unknown> = {};
    for (const file of files) {
      const source = readFileSync(join(OUT, 'serializers', file), 'utf8');
      const imports = [...source.matchAll(/^import .* from "(.*)";$/gm)].map(([, from]) => from);
      expect(
        imports.filter((from) => from !== '../../../dist/functions.js'),
        file,
      ).to.deep.equal([]);
      const name = file.replace(/\.js$/, '');
      const { data, json } = await serializerCase(name, store);
      expected[name] = json;
      rowsOf[name] = withNamedCounts(data);
    }
    writeFileSync(join(OUT, 'package.json'), '{"type":"module"}');
    writeFileSync(join(OUT, 'rows.bin'), serialize(rowsOf));
    writeFileSync(join(OUT, 'child.js'), CHILD);
    await run(process.execPath, ['--disallow-code-generation-from-strings', 'child.js'], { cwd: OUT });
    const { results, refused } = JSON.parse(readFileSync(join(OUT, 'results.json'), 'utf8')) as {
      results: Record<string, string>;
      refused: string;
    };
    expect(results).to.deep.equal(expected);
    expect(refused).to.equal(
      'CargoLine[0].commodity: expected a value of its type, got another; the library itself says which',
    );
  });
});
