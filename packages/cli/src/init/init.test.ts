import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { gribo, WORKSPACE } from '../testing/run-gribo.js';

const CACHE = join(WORKSPACE, '.cache');

const SCHEMA = `import { integer, pgTable, text } from 'drizzle-orm/pg-core';
export const users = pgTable('users', {
  id: integer().primaryKey(),
  name: text().notNull(),
  passwordHash: text().notNull(),
});
export const posts = pgTable('posts', { id: integer().primaryKey(), title: text().notNull(), userId: integer().references(() => users.id) });
`;

const CONNECTION = `import { PGlite } from '@electric-sql/pglite';
import { drizzle } from 'drizzle-orm/pglite';
export const connection = drizzle(new PGlite());
await connection.execute("create table users (id int primary key, name text not null, \\"passwordHash\\" text not null)");
await connection.execute("insert into users values (1, 'Ines', 'x'), (2, 'Bo', 'y')");
`;

describe('gribo init', () => {
  const folders: string[] = [];
  const project = (files: Readonly<Record<string, string>>): string => {
    mkdirSync(CACHE, { recursive: true });
    const folder = mkdtempSync(join(CACHE, 'init-'));
    folders.push(folder);
    for (const [path, text] of Object.entries(files)) {
      mkdirSync(join(folder, path, '..'), { recursive: true });
      writeFileSync(join(folder, path), text);
    }
    return folder;
  };
  after(() => {
    for (const folder of folders) rmSync(folder, { recursive: true, force: true });
  });
  const read = (folder: string, path: string): string => readFileSync(join(folder, path), 'utf8');

  it('begins with nothing: an API that answers at once', async () => {
    const folder = project({ 'package.json': '{"type":"module"}' });
    const dry = await gribo(['init', '--dry'], folder);
    expect(dry.out).to.include('export const office = api({').and.include('npm install gribo @gribo/http');
    const { code, out } = await gribo(['init'], folder);
    expect([code, out]).to.deep.equal([0, out]);
    expect(out).to.match(
      /^Nothing to begin with was found.*\n {2}gribo\/model\.ts\n {2}gribo\/api\.ts\n {2}gribo\.config\.ts\n\nNext\n/,
    );
    const here = await gribo(['here', '--json'], folder);
    expect(JSON.parse(here.out)).to.include({ endpoints: 4, entities: 1 });
    const tried = join(folder, 'note.json');
    const note = {
      title: 'Tide',
      body: 'High at six.',
      by: 'Ines',
      authorEmail: 'i@x.example',
      written: '2026-05-01T06:00:00Z',
    };
    writeFileSync(tried, JSON.stringify(note));
    expect((await gribo(['try', 'notes.create', '--body', tried], folder)).code).to.equal(0);
    const table = await gribo(['table', 'note'], folder);
    expect(table.out).to.include('title').and.not.include('authorEmail');
    const again = await gribo(['init'], folder);
    expect(again).to.include({
      code: 2,
      err: 'gribo.config.ts is here already: gribo says what there is.\n',
    });
  });

  it("begins with Drizzle's tables, and with the connection that is there", async () => {
    const folder = project({
      'package.json': '{"type":"module","dependencies":{"gribo":"1"}}',
      'src/db/schema.ts': SCHEMA,
      'src/db/index.ts': CONNECTION,
    });
    const { code, out } = await gribo(['init'], folder);
    expect([code, out]).to.deep.equal([0, out]);
    expect(out)
      .to.include('Tables of Drizzle in src/db/schema.ts.')
      .and.include('npm install @gribo/drizzle @gribo/http ');
    expect(read(folder, 'gribo/model.ts')).to.include("passwordHash: row.passwordHash.sealed('undecided')");
    expect(read(folder, 'gribo/api.ts')).to.not.include('passwordHash');
    const shown = await gribo(['show', 'users.list', '--json'], folder);
    expect(shown.out, shown.err).to.include('"name":"Ines"').and.not.include('"x"');
  });

  it('finds an address of a database, and says where there is none', async () => {
    const folder = project({
      'package.json': '{"type":"module"}',
      '.env': '# here\nDATABASE_URL="postgres://nobody@127.0.0.1:1/none"\n',
    });
    const found = await gribo(['init'], folder);
    expect(found.out).to.include('A database: DATABASE_URL in .env.');
    expect(found.code).to.equal(2);
    expect(found.err).to.include("Is the database's address right, and is it running?");
    const asked = await gribo(['init', '--from', 'drizzle'], folder);
    expect(asked).to.include({
      code: 2,
      err: 'No file was found in which tables of Drizzle are declared.\n',
    });
    expect((await gribo(['init', '--from', 'nothing', '--dry'], folder)).out).to.include('gribo/model.ts');
  });

  it('is for projects', async () => {
    const { code, err } = await gribo(['init'], '/');
    expect([code, err]).to.deep.equal([
      2,
      'There is no package.json here: go to the project, or make one with npm init.\n',
    ]);
  });
});
