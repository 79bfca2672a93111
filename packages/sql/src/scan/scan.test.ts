import { rmSync } from 'node:fs';
import { expect } from 'chai';
import { array, bigint, decimal, entity, integer, model, oneOf, text, toOne } from 'gribo';
import type { ColumnPlan, LinkedEntities, LinkPlan } from 'gribo/kit';
import { CompiledQuery } from 'kysely';
import { stock } from '../../../gribo/src/testing/stock.js';
import { dialectOf } from '../dialects/dialects.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { sqlStore } from '../store/sql-store.js';
import { CACHE, compiled } from '../testing/compiled.js';
import { databases, makeTables } from '../testing/databases.js';
import { drift } from './drift.js';
import { scan } from './scan.js';

/** What a database can know of a column. */
const known = (column: ColumnPlan, kinds: Readonly<Record<string, string>>): object => {
  const { name, stored, type, nullable, key, generated, unique } = column;
  const choices = type.kind === 'oneOf' ? type.choices : null;
  return { name, stored, kind: kinds[type.kind] ?? type.kind, choices, nullable, key, generated, unique };
};

/** A link but for its name. */
const leads = ({ kind, target, from, to, through }: LinkPlan): string =>
  JSON.stringify([kind, target.name, from, to, through?.entity.name, through?.from, through?.to]);

describe('scan and drift', () => {
  after(() => rmSync(CACHE, { recursive: true, force: true }));

  for (const { name, variable, open } of databases) {
    describe(`${name}${variable === null ? '' : ` (${variable})`}`, () => {
      let kysely: AnyKysely | null = null;
      before(async function () {
        kysely = await open();
        if (kysely === null) return this.skip();
        await makeTables(kysely);
      });
      after(() => kysely?.destroy());
      const database = (): AnyKysely => {
        if (kysely === null) throw new Error('the database was not opened');
        return kysely;
      };
      const run = (statement: string) => database().executeQuery(CompiledQuery.raw(statement));

      it('gives the model that the tables were made for, the same each time', async () => {
        const { source } = await scan(database());
        expect((await scan(database())).source).to.equal(source);
        const model = await compiled(name, source);
        for (const { entity, links } of Object.values(stock)) {
          const scanned = model[entity.name];
          expect(scanned?.entity.table).to.equal(entity.table);
          const columns = scanned?.entity.columns.map((column) => known(column, {}));
          expect(columns, entity.name).to.deep.equal(entity.columns.map((column) => known(column, {})));
          const found = [...(scanned?.links.values() ?? [])].map(leads);
          expect(found, entity.name).to.include.members([...links.values()].map(leads));
        }
      });

      it('finds no drift where there is none, and names what was changed', async () => {
        expect(await drift(stock, database())).to.deep.equal([]);
        await run('alter table vessel add column masts integer not null default 1');
        await run('alter table pilot add column born date');
        await run('create table harbour_master (name varchar(10) not null)');
        const added = (await drift(stock, database())).map(({ code, path }) => `${code} ${path}`);
        expect(added.sort()).to.deep.equal(['excess pilot.born', 'excess vessel.masts']);
        const { source, model } = await scan(database());
        expect(source).to.contain('  born: date().nullable(),\n');
        expect(source).to.contain('  masts: integer().defaulted(),\n');
        expect(model.leftOut).to.deep.equal([{ table: 'harbour_master', why: 'it has no primary key' }]);
        const scanned = await compiled(`${name} masts`, source);
        expect(await drift(scanned, database())).to.deep.equal([]);
        await run('drop table harbour_master');
        const without = source.replace('  builtYear: integer(),', '  builtYear: integer().defaulted(),');
        const said = await drift(await compiled(`${name} default`, without), database());
        expect(said.map(({ code, path }) => `${code} ${path}`)).to.deep.equal(['default vessel.builtYear']);
        await run('alter table vessel drop column masts');
        await run('alter table port_call drop column remarks');
        await run('alter table pilot drop column born');
        await run('alter table pilot rename to helmsman');
        const gone = (await drift(stock, database())).map(({ code, path }) => `${code} ${path}`);
        expect(gone.sort()).to.deep.equal(['column portCall.remarks', 'table pilot']);
        await run('alter table helmsman rename to pilot');
      });

      it('pairs the columns of composite keys by name, whatever the order they stand in', async () => {
        for (const table of ['clerk_desk', 'clerk', 'desk', 'branch'])
          await run(`drop table if exists ${table}`);
        await run(
          'create table branch (number integer not null, company integer not null, title varchar(20) not null, primary key (company, number))',
        );
        await run(
          'create table clerk (id integer primary key, company integer not null, branch integer not null, foreign key (company, branch) references branch (company, number))',
        );
        await run(
          'create table desk (id integer primary key, at_company integer not null, at_branch integer not null, foreign key (at_company, at_branch) references branch (company, number))',
        );
        await run("insert into branch (number, company, title) values (1, 2, 'right'), (2, 1, 'wrong')");
        await run('insert into clerk (id, company, branch) values (7, 2, 1)');
        await run('insert into desk (id, at_company, at_branch) values (8, 2, 1)');
        const model = await compiled(`${name} composite`, (await scan(database())).source);
        const store = sqlStore(model, database());
        const behind = async (entity: string) => {
          const links = [...(model[entity]?.links.values() ?? [])];
          const link = links.find(({ target }) => target.name === 'branch');
          if (link === undefined) throw new Error(`${entity} leads to no branch`);
          const target = link.target.columns.map(({ name: column, stored, type, coded }) => ({
            coded,
            name: column,
            stored,
            type,
          }));
          const inner = {
            entity: 'branch',
            table: 'branch',
            key: link.target.key,
            columns: target,
            links: [],
            figures: [],
          };
          const selection = { name: null, where: [], sort: [], limit: null, pick: null } as never;
          const plan = {
            entity,
            table: entity,
            key: ['id'],
            columns: [],
            figures: [],
            links: [{ link, selection, seen: null, plan: inner }],
          };
          const [row] = await store.list(plan);
          return (row as Record<string, { title: string } | null>)[link.name]?.title;
        };
        expect([await behind('clerk'), await behind('desk')]).to.deep.equal(['right', 'right']);
        for (const table of ['clerk', 'desk', 'branch']) await run(`drop table ${table}`);
      });

      it('takes the checks of a table for that table only, and a word in them for what it is', async () => {
        for (const table of ['tall', 'small']) await run(`drop table if exists ${table}`);
        const length = dialectOf(database()).name === 'sqlite' ? 'length' : 'char_length';
        const table = (most: number, word: string) =>
          `(id integer primary key, width integer check (width <= ${most}), note varchar(20) check (note in ('VALUE', '${word}')),
            mark varchar(20), check (${length}(mark) <= ${most}))`;
        await run(`create table tall ${table(9, 'a')}`);
        await run(`create table small ${table(2, 'b')}`);
        const { entities } = (await scan(database())).model;
        const types = (name: string) =>
          entities.find((entity) => entity.name === name)?.columns.map(({ column }) => column.type);
        const wanted = (most: number, word: string) => [
          { kind: 'integer', min: null, max: null },
          { kind: 'integer', min: null, max: most },
          { kind: 'oneOf', choices: ['VALUE', word] },
          { kind: 'text', min: null, max: most, pattern: null },
        ];
        expect(types('tall')).to.deep.equal(wanted(9, 'a'));
        expect(types('small')).to.deep.equal(wanted(2, 'b'));
        for (const name of ['tall', 'small']) await run(`drop table ${name}`);
      });

      it('takes what is unique only in columns, not in what is computed of them', async () => {
        // One that MariaDB cannot make is left out there.
        const index = (what: string) =>
          run(`create unique index only_${what.length} on marked ${what}`).catch(() => undefined);
        await run('drop table if exists marked');
        await run('create table marked (id integer primary key, a integer not null, b integer not null)');
        await index('(b)');
        await index('((a + 1))');
        const { entities } = (await scan(database())).model;
        const columns = entities.find(({ name: entity }) => entity === 'marked')?.columns;
        const unique = columns?.filter((column) => column.unique).map((column) => column.name);
        expect(unique).to.deep.equal(['b']);
        await run('drop table marked');
      });

      it('tells of links that lead elsewhere, and of what is not unique there', async () => {
        const { name: dialect } = dialectOf(database());
        for (const table of ['slot', 'pier', 'wharf']) await run(`drop table if exists ${table}`);
        // A database that checks them wants both sides of one size; SQLite and PostgreSQL do not.
        const size = dialect === 'mysql' ? 'bigint' : 'integer';
        await run('create table wharf (id bigint primary key, name varchar(20) not null)');
        await run(
          'create table pier (number integer not null, company integer not null, letter varchar(2) not null, primary key (company, number))',
        );
        await run(`create table slot (id integer primary key, pier_number integer not null, company_id integer not null, wharf_id ${size} not null,
          foreign key (company_id, pier_number) references pier (company, number), foreign key (wharf_id) references wharf (id))`);
        const { source } = await scan(database());
        const scanned = await compiled(`${name} links`, source);
        const about = async (linked: LinkedEntities): Promise<readonly string[]> =>
          (await drift(linked, database()))
            .filter(({ path }) => /^(?:slot|pier|wharf)/.test(path))
            .map(({ code, path, message }) => `${code} ${path}: ${message}`);
        expect(await about(scanned)).to.deep.equal([]);
        const wharf = [...(scanned['slot']?.links.values() ?? [])].find(
          ({ target }) => target.name === 'wharf',
        );
        expect([wharf?.from, wharf?.to]).to.deep.equal([['wharfId'], ['id']]);

        const wrong = model(
          {
            wharf: entity('wharf', { id: bigint().key(), name: text().unique() }),
            pier: entity('pier', { number: integer().key(), company: integer().key(), letter: text() }),
            slot: entity('slot', {
              id: integer().key(),
              pierNumber: integer(),
              companyId: integer(),
              wharfId: bigint(),
            }),
          },
          {
            slot: {
              pier: toOne('pier', { companyId: 'number', pierNumber: 'company' }),
              other: toOne('slot', { wharfId: 'id' }),
            },
          },
        );
        const found = (await about(wrong)).filter((each) => !each.startsWith('type'));
        expect(found).to.deep.equal([
          'unique wharf.name: the database lets several rows have the same name: take .unique() away, or make it unique there',
          "link slot.pier: the model links slot by company_id = number, pier_number = company of pier; the database's reference is by company_id = company, pier_number = number of pier: change one of them",
          "link slot.other: the model links slot by wharf_id = id of slot; the database's reference is by wharf_id = id of wharf: change one of them",
        ]);
        for (const table of ['slot', 'pier', 'wharf']) await run(`drop table ${table}`);
      });

      it('makes a check of a decimal into its bounds', async () => {
        await run('drop table if exists fee');
        await run(
          'create table fee (id integer primary key, due decimal(6, 2) not null check (due >= 0), paid decimal(6, 2) check (paid > 0 and paid < 1250.5), odd decimal(4, 1) check (odd <= 1.25))',
        );
        const { source } = await scan(database());
        expect(source).to.contain("  due: decimal(6, 2, { min: '0' }),\n");
        expect(source).to.contain("  paid: decimal(6, 2, { min: '0.01', max: '1250.49' }).nullable(),\n");
        // The bound has more places than the column: no decimal of it says that.
        expect(source)
          .to.match(/Left out: .*odd.*1\.25/)
          .and.to.contain('  odd: decimal(4, 1).nullable(),\n');
        await run('drop table fee');
      });

      it('asks for the digits of a number that does not say them, and takes those that the model says', async () => {
        // MariaDB has no such number.
        if (dialectOf(database()).name === 'mysql') return;
        await run('drop table if exists weighed');
        await run(
          'create table weighed (id integer primary key, mass numeric not null, price numeric(6, 2) not null)',
        );
        const { source } = await scan(database());
        expect(source).to.contain(
          '  // The database does not say how many digits it has: say it.\n  mass: decimal(38, 10),\n  price: decimal(6, 2),\n',
        );
        const weighed = (price: number) =>
          model(
            {
              weighed: entity('weighed', {
                id: integer().key(),
                mass: decimal(9, 3),
                price: decimal(price, 2),
              }),
            },
            {},
          );
        const about = async (linked: LinkedEntities) =>
          (await drift(linked, database())).filter(({ path }) => path.startsWith('weighed'));
        expect(await about(weighed(6))).to.deep.equal([]);
        expect(await about(weighed(7))).to.have.length(1);
        await run('drop table weighed');
      });

      it('takes the choices of a type from its own schema', async () => {
        if (dialectOf(database()).name !== 'postgres') return;
        const tables =
          'drop table if exists gauge; drop type if exists tide; drop schema if exists elsewhere cascade';
        for (const statement of tables.split('; ')) await run(statement);
        await run('create schema elsewhere');
        await run("create type elsewhere.tide as enum ('ebb', 'low')");
        await run("create type tide as enum ('high', 'low')");
        await run('create table gauge (id integer primary key, tide tide not null)');
        const { source } = await scan(database());
        expect(source).to.contain("tide: oneOf('high', 'low'),");
        await run("create domain elsewhere.worth as text check (value in ('VALUE', 'none'))");
        await run('alter table gauge add column worth elsewhere.worth');
        expect((await scan(database())).source).to.contain("worth: oneOf('VALUE', 'none').nullable(),");
        for (const statement of tables.split('; ')) await run(statement);
      });

      it('finds types, nulls and keys that differ', async () => {
        if (dialectOf(database()).name !== 'postgres') return;
        await makeTables(database());
        await run('alter table vessel alter column draught type text');
        await run('alter table vessel alter column tonnage type numeric(12, 2)');
        await run('alter table vessel alter column built_year drop not null');
        await run("update vessel set call_sign = ''");
        await run('alter table vessel alter column call_sign set not null');
        await run('alter table pilotage drop constraint pilotage_pkey');
        await run('alter table port_call drop constraint port_call_status_check');
        await run("alter table port_call add check (status in ('announced', 'gone'))");
        const found = await drift(stock, database());
        expect(found.map(({ code, path }) => `${code} ${path}`).sort()).to.deep.equal([
          'key pilotage',
          'null vessel.builtYear',
          'null vessel.callSign',
          'type portCall.status',
          'type vessel.draught',
          'type vessel.tonnage',
        ]);
        for (const { message } of found) expect(message).to.match(/\w.*(?:: |,)/);
        await makeTables(database());
        await run('drop table if exists list');
        await run('create table list (id integer primary key, names text[] not null, kinds text[] not null)');
        const List = model(
          {
            list: entity('list', {
              id: integer().key(),
              names: array(integer()),
              kinds: array(oneOf('a', 'b')),
            }),
          },
          {},
        );
        expect(
          (await drift(List, database())).map(({ path, message }) => `${path}: ${message}`),
        ).to.deep.equal([
          'list.names: the model says an array of integer; the database says an array of text: change one of them',
        ]);
        await run('drop table list');
      });
    });
  }
});
