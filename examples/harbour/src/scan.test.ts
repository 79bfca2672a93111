import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { pathToFileURL } from 'node:url';
import { drift, scan } from '@gribo/sql';
import { expect } from 'chai';
import type { ColumnPlan, LinkedEntities, LinkPlan } from 'gribo/kit';
import { type Kysely, sql } from 'kysely';
import { openHarbour, type Tables } from './database.js';
import { db } from './model.js';

/** What a database knows of a column: all but limits and seals. */
const known = ({ name, stored, type, nullable, key, generated, unique }: ColumnPlan): object => ({
  name,
  stored,
  type: type.kind === 'oneOf' || type.kind === 'decimal' ? type : type.kind,
  nullable,
  key,
  generated,
  unique,
});

/** A link but for its name. */
const leads = ({ kind, target, from, to, through }: LinkPlan): string =>
  JSON.stringify([kind, target.name, from, to, through?.entity.name, through?.from, through?.to]);

describe('the harbour’s database', () => {
  const folder = new URL('../.cache/scan/', import.meta.url);
  let database: Kysely<Tables>;
  before(async () => {
    database = await openHarbour();
  });
  after(async () => {
    rmSync(folder, { recursive: true, force: true });
    await database.destroy();
  });

  it('is scanned into the model of the example, seals and limits apart', async () => {
    const file = new URL('model.ts', folder);
    mkdirSync(folder, { recursive: true });
    writeFileSync(file, (await scan(database)).source);
    const scanned = ((await import(pathToFileURL(file.pathname).href)) as { db: LinkedEntities }).db;
    expect(Object.keys(scanned).sort()).to.deep.equal(Object.keys(db).sort());
    for (const { entity, links } of Object.values(db)) {
      const found = scanned[entity.name];
      expect(found?.entity.columns.map(known), entity.name).to.deep.equal(entity.columns.map(known));
      const ways = [...(found?.links.values() ?? [])].map(leads);
      expect(ways, entity.name).to.include.members([...links.values()].map(leads));
    }
    const sealed = scanned['vessel']?.entity.columns.filter((column) => column.sealed !== null);
    expect(sealed?.map(({ name }) => name)).to.deep.equal(['masterPhone']);
  });

  it('agrees with the model, and drift names a column that was added', async () => {
    expect(await drift(db, database)).to.deep.equal([]);
    await sql`alter table berth add column bollards integer`.execute(database);
    expect((await drift(db, database)).map(({ code, path }) => [code, path])).to.deep.equal([
      ['excess', 'berth.bollards'],
    ]);
  });
});
