import { serve } from '@gribo/http';
import { expect } from 'chai';
import { api, collection, input, list, shape } from 'gribo';
import { CompiledQuery } from 'kysely';
import { stock, stockRows } from '../../../gribo/src/testing/stock.js';
import { dialectOf } from '../dialects/dialects.js';
import { sqlStore } from '../index.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { databases, fillTables, makeTables } from '../testing/databases.js';

const Pilot = shape(stock.pilot, ({ id, name }) => ({ id, name }), { name: 'Pilot' });
const NewPilot = input(stock.pilot, ({ name }) => ({ name }), { name: 'NewPilot' });
const pilots = api({
  title: 'Pilots',
  version: '1',
  endpoints: {
    pilots: collection('/pilots', stock.pilot, {
      list: list(Pilot),
      read: Pilot,
      create: { takes: NewPilot, returns: Pilot },
    }),
  },
});

/** A class of each kind that servers know, and some that none knows. */
const STATES =
  '01000 02000 03000 08000 08006 09000 0A000 0B000 0F000 0L000 0P000 0Z000 20000 21000 22000 22001 22003 22007 22008 22012 22021 22023 22025 22P02 22P05 23000 23502 23503 23505 23514 23P01 24000 25000 25006 25P02 25P03 26000 27000 28000 28P01 2B000 2D000 2F000 34000 38000 39000 3B000 3D000 3F000 40000 40001 40002 40003 40P01 42000 42501 42601 42703 42704 42883 42P01 428C9 44000 45000 53000 53100 53200 53300 54000 54001 55000 55006 55P03 57000 57014 57P01 57P03 58000 58030 58P01 F0000 HV000 P0001 P0002 P0003 P0004 XX000 XX001 ZZ999'.split(
    ' ',
  );

/** MySQL's numbers, of each kind that is looked at. */
const NUMBERS = [
  1020, 1021, 1040, 1044, 1045, 1047, 1048, 1049, 1053, 1054, 1062, 1064, 1105, 1114, 1142, 1146, 1205, 1213,
  1226, 1264, 1265, 1290, 1292, 1317, 1364, 1366, 1406, 1451, 1452, 1525, 1614, 1644, 1792, 1906, 1927, 1969,
  2006, 2013, 3024, 3819, 4025, 4031,
];

/** What a new pilot's name makes the database say: its first five letters are the class, the rest is the canary. */
const TRIGGERS: Readonly<Record<string, readonly string[]>> = {
  postgres: [
    `create or replace function sing() returns trigger language plpgsql as $$
     declare taken integer;
     begin
       if new.name like 'PARSE%' then perform to_tsquery(new.name || ' & &'); end if;
       if new.name like 'CASTS%' then taken := new.name::integer; end if;
       if new.name like 'RUNIT%' then execute new.name; end if;
       if new.name like 'TABLE%' then execute 'select * from ' || quote_ident(new.name); end if;
       if new.name like 'ZONES%' then perform now() at time zone new.name; end if;
       if new.name like 'REGEX%' then perform 'x' ~ (new.name || '('); end if;
       if new.name like 'JSONS%' then perform new.name::jsonb; end if;
       raise exception using errcode = left(new.name, 5), message = new.name, detail = 'Key (' || new.name || ')=(' || new.name || ') is there',
         hint = new.name, column = new.name, constraint = new.name, datatype = new.name, table = new.name, schema = new.name;
     end $$`,
    'create trigger sings before insert on pilot for each row execute function sing()',
  ],
  mysql: [
    `create trigger sings before insert on pilot for each row begin
       declare number integer default 0;
       if new.name regexp '^n[0-9]{4}' then
         set number = cast(substr(new.name, 2, 4) as integer);
         signal sqlstate '45000' set mysql_errno = number, message_text = new.name, constraint_name = new.name, table_name = new.name;
       end if;
       if new.name like 'CASTS%' then set number = new.name; end if;
       if new.name like 'JSONS%' then set number = json_length(concat('{', new.name)) ; end if;
       signal sqlstate '45000' set message_text = new.name;
     end`,
  ],
  sqlite: [
    `create trigger sings before insert on pilot begin
       select case when new.name like 'JSONS%' then json(new.name) when new.name like 'PATHS%' then json_extract('{}', new.name) end;
       select raise(abort, 'CANARY, by a trigger');
     end`,
  ],
};

const OWN: Readonly<Record<string, readonly string[]>> = {
  postgres: [...STATES, 'PARSE', 'CASTS', 'RUNIT', 'TABLE', 'ZONES', 'REGEX', 'JSONS'],
  mysql: [...NUMBERS.map((number) => `n${number}`), 'CASTS', 'JSONS', 'PLAIN'],
  sqlite: ['JSONS', 'PATHS', 'PLAIN'],
};

/** All that a log could print of what it is given. */
const printed = (about: unknown, depth = 0): string => {
  if (typeof about !== 'object' || about === null || depth > 8) return String(about);
  const error = about instanceof Error ? `${about.name} ${about.message} ${about.stack}` : '';
  return (
    error +
    Object.getOwnPropertyNames(about)
      .map((name) => `${name}=${printed(Reflect.get(about, name), depth + 1)};`)
      .join('')
  );
};

for (const { name, variable, open } of databases) {
  describe(`what a database says on ${name}${variable === null ? '' : ` (${variable})`}`, () => {
    let kysely: AnyKysely | null = null;
    const run = async (statement: string): Promise<void> => {
      await kysely?.executeQuery(CompiledQuery.raw(statement));
    };

    before(async function () {
      kysely = await open();
      if (kysely === null) return this.skip();
      await makeTables(kysely);
      await fillTables(kysely, stock, stockRows);
      for (const statement of TRIGGERS[dialectOf(kysely).name] ?? []) await run(statement);
    });
    after(async () => {
      await kysely?.destroy();
    });

    it('reaches neither the log nor a caller, whatever the class: a canary is in every value', async function () {
      if (kysely === null) return this.skip();
      const told: string[] = [];
      const log = {
        error: (about: object, message: string) => void told.push(`${message} ${printed(about)}`),
      };
      const raw = kysely;
      const store = sqlStore(stock, raw, { closes: false });
      const handle = serve(pilots, { store, log });
      const own = serve(pilots, {
        store,
        log,
        handlers: {
          // A handler that asks the database by itself.
          'pilots.create': async ({ input: { name: said } }) => {
            await raw.insertInto('pilot').values({ name: said }).execute();
            throw new Error('it was stored');
          },
        },
      });
      const classes = OWN[dialectOf(raw).name] ?? [];
      for (const each of classes)
        for (const one of [handle, own]) {
          const before = told.length;
          const response = await one(
            new Request('http://p.test/pilots', {
              method: 'POST',
              headers: { 'content-type': 'application/json' },
              body: JSON.stringify({ name: `${each}-CANARY\n    at CANARY (x.js:1:2)` }),
            }),
          );
          const all = `${await response.text()} ${told.slice(before).join(' ')}`;
          expect(response.status, each).to.be.within(400, 599);
          expect(all, each).not.to.match(/CANARY/i);
          // Whoever reads the log is told what it was all the same.
          if (response.status >= 500) expect(told.length, each).to.equal(before + 1);
        }
      expect(told.length).to.be.greaterThan(classes.length / 2);
    });
  });
}
