import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { expect } from 'chai';
import { gribo, WORKSPACE } from './testing/run-gribo.js';

const SCHEMAS = join(WORKSPACE, 'packages/cli/schemas');

/** What commands are asked, by the schema of what they print. */
const ASKED: Readonly<Record<string, readonly string[]>> = {
  here: ['here'],
  check: ['check --no-drift'],
  trace: ['trace vessel.masterPhone', 'trace portCalls.read/cargo', 'trace portCall --edition 2025-11'],
  table: ['table vessel', 'table portCall --audience public'],
  inputs: ['table portCall --inputs'],
  rows: ['table --rows'],
  try: [
    'try vessels.create --body bodies/vessel.json --as lantern',
    'try portCalls.create --body bodies/call.json --as lantern',
    'try portCalls.create --body bodies/wrong-call.json --as lantern',
    'try portCalls.replace --body bodies/call.json --as lantern',
    'try positions.create --body bodies/wrong-positions.csv',
  ],
  diff: ['diff 2025-11 2026-05', 'diff 2026-05 2026-05'],
  retire: ['retire 2025-11'],
  build: ['build --check --only contract,types'],
  formats: ['formats'],
  weigh: ['show vessels.list --weigh'],
  file: ['show vessels.photo --id 1'],
};

describe('what commands print with --json', () => {
  // Types that are unions stand in one `type`, as the generator writes them.
  const ajv = new Ajv2020({ strict: true, allowUnionTypes: true, allErrors: true });
  const folder = mkdtempSync(join(tmpdir(), 'gribo-json-'));
  after(() => rmSync(folder, { recursive: true }));
  const schemaOf = (name: string): object =>
    JSON.parse(readFileSync(join(SCHEMAS, `${name}.json`), 'utf8')) as object;

  for (const [name, commands] of Object.entries(ASKED)) {
    it(`${name} is what its schema says`, async () => {
      const validate = ajv.compile(schemaOf(name));
      for (const command of commands) {
        const { code, out, err } = await gribo([...command.split(' '), '--json']);
        expect(code, `${command}: ${err}`).to.be.below(2);
        const told: unknown = JSON.parse(out);
        expect(validate(told), `${command}: ${ajv.errorsText(validate.errors)}`).to.equal(true);
        // A schema that lets everything pass is none.
        expect(validate({ other: told }), command).to.equal(false);
      }
    });
  }

  it('is described for every command that has it, on the page too', async () => {
    const { out } = await gribo(['here', '--json'], folder);
    expect(ajv.compile(schemaOf('here'))(JSON.parse(out)), out).to.equal(true);
    const names = readdirSync(SCHEMAS).map((file) => file.replace('.json', ''));
    expect(names.sort()).to.deep.equal(Object.keys(ASKED).sort());
    const page = readFileSync(join(WORKSPACE, 'docs/json.md'), 'utf8');
    for (const name of names) expect(page).to.contain(`(../packages/cli/schemas/${name}.json)`);
    const sources = readdirSync(join(WORKSPACE, 'packages/cli/src'), { recursive: true, encoding: 'utf8' });
    const having = sources
      .filter((file) => file.endsWith('command.ts'))
      .map((file) => readFileSync(join(WORKSPACE, 'packages/cli/src', file), 'utf8'))
      .filter((text) => text.includes("'--json'"))
      .map((text) => /\.?command\('(\w+)'/.exec(text)?.[1]);
    for (const command of having) expect(page).to.match(new RegExp(`gribo ${command}\\b.*--json`));
  });
});
