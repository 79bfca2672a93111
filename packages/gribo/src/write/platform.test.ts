import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';

const DIST = new URL('../../dist/index.js', import.meta.url).href;

/** Runs a program in a process of its own, over the built package. */
const run = (program: string, flags: readonly string[] = [], before = ''): unknown => {
  const source = `
    ${before}
    const { shape, model, entity, integer, text, timestamp, bytes, list, writer } = await import(${JSON.stringify(DIST)});
    const db = model({ thing: entity('thing', { id: integer().key(), name: text(), at: timestamp(), raw: bytes() }) }, {});
    const Thing = shape(db.thing, ({ id, name, at, raw }) => ({ id, name, at, raw, 'ключ': name }));
    const names = ['plain', 'ünï "q"', '\\ud800', 'x'.repeat(200), 'x'.repeat(200) + '潮', 'y'.repeat(70000)];
    const rows = names.map((name, id) => ({ id, name, at: new Date(id), raw: Uint8Array.of(id, 2, 3) }));
    const print = (value) => process.stdout.write(JSON.stringify(value));
    ${program}`;
  const args = [...flags, '--input-type=module', '-e', source];
  return JSON.parse(
    execFileSync(process.execPath, args, {
      encoding: 'utf8',
      cwd: fileURLToPath(new URL('.', import.meta.url)),
    }),
  );
};

describe('a platform', () => {
  it('without Node’s buffers, as browsers are, writes the same', () => {
    const found = run(
      `
      const write = writer(list(Thing));
      const json = write.json(rows);
      const own = write.bytes(rows);
      print([own.constructor.name, json === JSON.stringify(write.object(rows)), new TextDecoder().decode(own) === json]);
    `,
      [],
      'delete globalThis.Buffer;',
    );
    expect(found).to.deep.equal(['Uint8Array', true, true]);
  });

  it('that lets code be made while modules are loaded, and not after that, gets the interpreter then', () => {
    const found = run(`
      const { input, reader } = await import(${JSON.stringify(DIST)});
      const early = writer(list(Thing));
      const before = early.engine;
      globalThis.Function = function () { throw new EvalError('forbidden') };
      // A program is made once there are rows enough.
      const json = early.json(Array(20).fill(rows).flat()) && early.json(rows);
      const late = writer(list(Thing));
      const NewThing = input(db.thing, ({ id, name }) => ({ id, name }));
      const read = reader(NewThing);
      print([
        before, early.engine, early.because, late.engine, read.engine,
        json === JSON.stringify(early.object(rows)), new TextDecoder().decode(late.bytes(rows)) === json,
        read.json('{"id":1,"name":"x"}').ok,
      ]);
    `);
    const because = 'this platform forbids generated code';
    expect(found).to.deep.equal([
      'generated',
      'interpreted',
      because,
      'interpreted',
      'interpreted',
      true,
      true,
      true,
    ]);
  });

  it('that fails otherwise while it makes code says so, and is not taken for one that forbids it', () => {
    const found = run(`
      const early = writer(list(Thing));
      const { Function } = globalThis;
      globalThis.Function = function () { throw new RangeError('too much') };
      let message = '';
      try { early.json(Array(50).fill(rows).flat()) } catch (error) { message = String(error) }
      globalThis.Function = Function;
      print([message, writer(list(Thing)).engine]);
    `);
    expect(found).to.deep.equal(['RangeError: too much', 'generated']);
  });

  it('that forbids generated code gets the interpreter, and a clear error where code is insisted on', () => {
    const found = run(
      `
      const write = writer(list(Thing));
      let message = '';
      try { writer(Thing, {}, { engine: 'generated' }) } catch (error) { message = error.code + ' ' + error.message }
      print([write.engine, write.json(rows) === JSON.stringify(write.object(rows)), message]);
    `,
      ['--disallow-code-generation-from-strings'],
    );
    expect(found).to.deep.equal([
      'interpreted',
      true,
      'ENGINE this platform forbids generated code: use engine "auto" or "interpreted"',
    ]);
  });
});
