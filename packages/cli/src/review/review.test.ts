import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { expect } from 'chai';
import type { Log } from 'sarif';
import { gribo, HARBOUR, WORKSPACE } from '../testing/run-gribo.js';

const CONTRACT = join(HARBOUR, 'generated/contract.json');
const CACHE = join(WORKSPACE, '.cache', 'diff');

describe('gribo trace', () => {
  it('follows a column out and in', async () => {
    const { code, out } = await gribo(['trace', 'vessel.masterPhone']);
    expect(code).to.equal(0);
    expect(out).to.contain('vessel.masterPhone  sealed: personal');
    expect(out).to.match(
      /gets out\n {2}vessels\.read, create, replace, amend {2}masterPhone {2}as it is {2}for harbourMaster\n/,
    );
    expect(out).to.match(
      /gets in\n {2}vessels\.create, replace, amend {2}masterPhone {2}set by it {2}for agent, harbourMaster\n/,
    );
  });

  it('follows a member back, in a page too, and what is inside it', async () => {
    expect((await gribo(['trace', 'vessels.read/operatorName'])).out).to.match(
      /is made from\n {2}operator\.name {2}operatorName {2}as it is {2}for everybody/,
    );
    expect((await gribo(['trace', 'vessels.list/operatorName'])).out).to.contain('items[].operatorName');
    const calls = (await gribo(['trace', 'vessels.read/portCalls', '--json'])).out;
    const columns = new Set((JSON.parse(calls) as { column: string }[]).map(({ column }) => column));
    expect([...columns]).to.include.members(['id', 'status', 'eta', 'code', 'embargoUntil']);
  });

  it('knows all columns of an entity, and says when nothing gets out', async () => {
    const { out } = await gribo(['trace', 'pilot']);
    expect(out).to.match(/ {2}pilot\.firstName +portCalls\.read/);
    expect((await gribo(['trace', 'pilot.medicalUntil'])).out).to.contain('gets out nowhere');
  });

  it('says what is near a name that is not there', async () => {
    const wrong = await gribo(['trace', 'vessel.masterPhon']);
    expect(wrong).to.deep.include({ code: 2, out: '' });
    expect(wrong.err).to.contain('Did you mean "vessel.masterPhone"?');
    expect((await gribo(['trace', 'vessels.read/nam'])).err).to.contain('Did you mean "name"?');
    expect((await gribo(['trace', 'nothing'])).err).to.contain('Name a column (vessel.name)');
  });
});

describe('gribo check', () => {
  it('finds what is risky, with advice, and ends with 1', async () => {
    const { code, out, err } = await gribo(['check']);
    expect(code).to.equal(1);
    expect(out).to.match(/^warning {2}unshown\n {2}vessel\.updatedAt {4}No response shows it/m);
    expect(out).to.match(/^note {2}unsealed\n {2}vessel\.masterPhone {2}It is sealed \(personal\)/m);
    expect(out)
      .to.contain('  → Show it, seal it, or accept this')
      .and.contain('0 errors, 3 warnings, 10 notes; 6 accepted');
    expect(err).to.equal('Mend them, or accept them in the configuration with the reason why.\n');
  });

  it('finds what is risky where the API is served, by what the configuration says of that', async () => {
    const file = join(HARBOUR, '.cache', 'risky.config.ts');
    mkdirSync(dirname(file), { recursive: true });
    writeFileSync(
      file,
      `import { form, standardFormats } from '@gribo/http';
       import config from '../gribo.config.js';
       const handlers = { ...config.handlers, 'portCalls.list': ({ load }) => load.anywhere.rows() };
       export default { ...config, handlers, formats: [...standardFormats, form], cache: { 'vessels.list': 60, 'berths.read': 60 }, policies: { rows: 50_000 } };`,
    );
    const { findings } = JSON.parse(
      (await gribo(['check', '--no-drift', '--json', '--config', '.cache/risky.config.ts'])).out,
    ) as { findings: { code: string; place: string }[] };
    rmSync(file);
    const placesOf = (code: string): readonly string[] =>
      findings.filter((finding) => finding.code === code).map(({ place }) => place);
    expect(placesOf('forms')).to.deep.equal(['formats']);
    expect(placesOf('kept-for-some')).to.deep.equal(['berths.read']);
    expect(placesOf('many-rows')).to.include('portCalls.create');
    expect(placesOf('beyond-endpoint')).to.deep.equal(['portCalls.list']);
  });

  it('gives data, and SARIF for tools that gather findings', async () => {
    const data = JSON.parse((await gribo(['check', '--no-drift', '--json'])).out);
    expect(data.findings[0]).to.include({ code: 'unshown', severity: 'warning' });
    expect(data.accepted[0]).to.include({ reason: 'When a row was entered is for the office only.' });
    const log = JSON.parse((await gribo(['check', '--no-drift', '--sarif'])).out) as Log;
    expect(log.version).to.equal('2.1.0');
    const [run] = log.runs;
    const rules = new Set(run?.tool.driver.rules?.map(({ id }) => id));
    const results = run?.results ?? [];
    expect(results).to.have.length(data.findings.length + data.accepted.length);
    for (const { ruleId, level, locations } of results) {
      expect(rules.has(ruleId ?? ''), ruleId).to.equal(true);
      expect(level).to.be.oneOf(['error', 'warning', 'note']);
      expect(locations?.[0]?.logicalLocations?.[0]?.fullyQualifiedName).to.be.a('string');
    }
    // Each leads to where it is declared.
    const lineOf = (place: string): string => {
      const [found] = results.flatMap(({ locations = [] }) =>
        locations.filter(({ logicalLocations }) => logicalLocations?.[0]?.fullyQualifiedName === place),
      );
      const { artifactLocation, region } = found?.physicalLocation ?? {};
      const text = readFileSync(join(HARBOUR, artifactLocation?.uri ?? ''), 'utf8');
      return text.split('\n')[(region?.startLine ?? 0) - 1]?.trim() ?? '';
    };
    expect(lineOf('vessel.masterPhone')).to.match(/^masterPhone: text/);
    expect(lineOf('operator.updatedAt')).to.match(/^updatedAt: timestamp/);
    expect(lineOf('pilotage')).to.match(/^const pilotage = entity\('pilotage'/);
    expect(lineOf('quays.list/parts')).to.match(/^quays: collection\(/);
    expect(results.filter(({ suppressions }) => suppressions !== undefined)).to.have.length(
      data.accepted.length,
    );
  });
});

describe('gribo diff', () => {
  /** The harbour's contract before its next change: what the present one has lost, gained and loosened since. */
  const old = join(CACHE, 'before.json');
  before(() => {
    mkdirSync(CACHE, { recursive: true });
    const contract = JSON.parse(readFileSync(CONTRACT, 'utf8'));
    for (const [name, shape] of Object.entries(
      contract.shapes as Record<string, { members: { name: string; nullable?: true }[] }>,
    )) {
      if (name === 'VesselCard') shape.members.push({ name: 'gone', type: { kind: 'text' } } as never);
      for (const member of shape.members) if (member.name === 'callSign') delete member.nullable;
    }
    contract.inputs.NewVessel.members = contract.inputs.NewVessel.members.filter(
      ({ name }: { name: string }) => name !== 'notes',
    );
    writeFileSync(old, JSON.stringify(contract));
  });
  after(() => rmSync(CACHE, { recursive: true, force: true }));

  it('says what breaks clients, for whom, and what the version must be', async () => {
    const { code, out, err } = await gribo(['diff', old]);
    expect(code).to.equal(1);
    expect(out).to.match(/^Breaking: \d+\n/);
    expect(out).to.match(
      / {2}sent {6}items\[\]\.gone {2}It is not there any more\.\n {12}vessels\.list, for everybody {2}\(member-removed\)/,
    );
    expect(out).to.match(/ {2}sent {6}callSign {2}It may be null now\.\n {12}vessels\.read, create/);
    expect(out).to.match(/Safe: 1\n {2}taken {5}notes {2}It is new, and may be left out\./);
    expect(out).to.contain('A major step from 1.0.0: it asks for 2.0.0; the API still says 1.0.0.');
    expect(err).to.match(/^\d differences break clients\.\n$/);
  });

  it('is content where nothing breaks, or where the version says so', async () => {
    const same = await gribo(['diff', CONTRACT]);
    expect(same).to.include({ code: 0, out: 'Nothing differs. Version 1.0.0 to 1.0.0.\n' });
    const later = { ...JSON.parse(readFileSync(CONTRACT, 'utf8')), version: '2.0.0' };
    writeFileSync(join(CACHE, 'later.json'), JSON.stringify(later));
    const told = await gribo(['diff', old, join(CACHE, 'later.json')]);
    expect(told.code).to.equal(0);
    expect(told.out).to.contain('it asks for 2.0.0, and the API says 2.0.0.');
  });

  it('gives data, and Markdown for a pull request', async () => {
    const data = JSON.parse((await gribo(['diff', old, '--json'])).out);
    expect(data).to.include({ step: 'major', suggested: '2.0.0', announced: false });
    const { out } = await gribo(['diff', old, '--markdown']);
    expect(out).to.match(
      /^## Merrow Harbour Office: 1\.0\.0 → 1\.0\.0\n\n### Breaking \(\d\)\n\n\| \| member \|/,
    );
    expect(out).to.contain(
      '| sent | `items[].gone` | It is not there any more. | vessels.list | everybody |',
    );
  });

  it('says what is no contract', async () => {
    expect((await gribo(['diff', 'package.json'])).err).to.contain(
      'package.json is no contract of this version of Gribo',
    );
    expect((await gribo(['diff', 'missing.json'])).err).to.contain('missing.json could not be read');
  });
});

describe('gribo show --weigh', () => {
  it('shows how many bytes each member has, the heaviest first', async () => {
    const { out } = await gribo(['show', 'vessels.read', '--id', '3', '--weigh']);
    const sizes = [...out.matchAll(/^\w+ +(\d+) +\d+ %/gm)].map(([, bytes]) => Number(bytes));
    expect(sizes).to.deep.equal([...sizes].sort((a, b) => b - a));
    const [, whole] = /(\d+) bytes as sent/.exec(out) ?? [];
    // Brackets and commas belong to the whole.
    expect(sizes.reduce((sum, size) => sum + size)).to.equal(Number(whole) - 2 - (sizes.length - 1));
    const data = JSON.parse((await gribo(['show', 'vessels.read', '--id', '3', '--weigh', '--json'])).out);
    expect(data).to.include({ bytes: Number(whole), count: 1 });
    expect(out).to.match(/^ {2}status +\d+ +\d+ % +3× {2}█/m);
  });
});
