import { AssertionError } from 'node:assert';
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import {
  api,
  bytes,
  callerOf,
  collection,
  date,
  decimal,
  derive,
  editionBefore,
  editionFrom,
  entity,
  given,
  input,
  integer,
  json,
  list,
  model,
  real,
  shape,
  text,
  timestamp,
  toMany,
  toOne,
  uuid,
} from 'gribo';
import { assertAnswer, assertContract, assertNothingSealed, factory, testServer } from './index.js';

const db = model(
  {
    owner: entity('owner', {
      id: uuid().key(),
      name: text(),
      pin: integer().sealed('credential'),
      key: bytes().sealed('credential'),
    }),
    boat: entity('boat', {
      id: integer().key().generated(),
      name: text({ min: 2, max: 20 }),
      hull: text({ pattern: /^[A-Z]{2}-\d{3}$/ }).unique(),
      length: real(),
      price: decimal(8, 2).nullable(),
      built: date(),
      seen: timestamp(),
      extra: json(),
      ownerId: uuid(),
      homeId: integer().nullable(),
    }),
    home: entity('home', { id: integer().key(), name: text() }),
  },
  {
    boat: { owner: toOne('owner', 'ownerId'), home: toOne('home', 'homeId') },
    owner: { boats: toMany('boat', 'ownerId') },
  },
);
const Boat = shape(db.boat, (b) => ({
  id: b.id,
  name: b.name,
  size: { length: b.length, price: b.price },
  built: b.built,
  seen: b.seen,
  extra: b.extra,
  owner: b.owner.name,
}));
const NewBoat = input(db.boat, ({ name, hull, length, price, built, seen, extra, ownerId }) => ({
  name,
  hull,
  length,
  price,
  built,
  seen,
  extra,
  ownerId,
}));
const boats = api({
  title: 'Boats',
  version: '1.0.0',
  endpoints: {
    boats: collection('/boats', db.boat, {
      list: list(Boat),
      read: Boat,
      create: { takes: NewBoat, returns: Boat },
      remove: true,
    }),
  },
});

describe('factories', () => {
  it('make rows that fit, however many; the same seed makes the same', () => {
    const make = factory(db, { seed: 'fleet' });
    const made = Array.from({ length: 150 }, (_, n) => make('boat', { name: `Boat ${n}` }));
    expect(new Set(made.map(({ id }) => id)).size).to.equal(150);
    expect(new Set(made.map(({ hull }) => hull)).size).to.equal(150);
    expect(made.every(({ hull }) => /^[A-Z]{2}-\d{3}$/.test(hull))).to.equal(true);
    expect(make.rows()['boat']).to.have.length(150);
    const again = factory(db, { seed: 'fleet' });
    expect(again('boat', { name: 'Boat 0' })).to.deep.equal(made[0]);
    expect(factory(db, { seed: 'other' })('boat').hull).to.not.equal(made[0]?.hull);
    // A store takes them: links lead somewhere, limits hold.
    expect(() => testServer(boats, db, { rows: make.rows() })).to.not.throw();
  });

  it('refer to the row that was made last, to a given one, or to none', () => {
    const make = factory(db);
    const first = make('owner', { name: 'Ines' });
    expect(make('boat').ownerId).to.equal(first.id);
    const second = make('owner');
    expect(make('boat').ownerId).to.equal(second.id);
    expect(make('boat', { ownerId: first.id }).ownerId).to.equal(first.id);
    expect(make('boat', { homeId: null }).homeId).to.equal(null);
    expect(make.rows()['owner']).to.have.length(2);
  });

  it('say what is not there', () => {
    const make = factory(db);
    expect(() => make('bout' as 'boat')).to.throw('There are: owner, boat, home');
  });
});

describe('a server for tests', () => {
  it('answers as it is asked, keeps what was stored, and listens where that is wanted', async () => {
    const make = factory(db);
    const { ownerId } = make('boat', { name: 'Tern' });
    const server = testServer(boats, db, { rows: make.rows() });
    const sent = {
      name: 'Dunlin',
      hull: 'AB-123',
      length: 7.5,
      price: null,
      built: '2001-02-03',
      seen: '2026-05-01T00:00:00Z',
      extra: {},
      ownerId,
    };
    const created = await server.ask('POST /boats', { body: sent });
    expect(created.status).to.equal(201);
    assertAnswer(boats, 'boats.create', await created.json());
    expect(await server.store.count('boat')).to.equal(2);
    expect(
      (
        await server.ask('POST /boats', {
          body: '{"name":1}',
          headers: { 'content-type': 'application/json' },
        })
      ).status,
    ).to.equal(422);
    expect(await (await server.ask('GET /boats?', { headers: { accept: 'text/csv' } })).text()).to.match(
      /^id,name,/,
    );
    const address = `${await server.url()}/boats/1`;
    expect((await fetch(address)).status).to.equal(200);
    await server.close();
    const refused = await fetch(address).then(String, ({ name }) => name);
    expect(refused).to.equal('TypeError');
  });
});

describe('a caller without a fact that is needed', () => {
  it('is told which one, where failures are told', async () => {
    const caller = callerOf({ zone: text() });
    const Mine = shape(db.boat, (b) => ({
      at: derive([b.name, caller.zone], text(), (name, zone) => name + zone),
    }));
    const mine = api({
      title: 'Mine',
      version: '1',
      caller,
      endpoints: { boats: collection('/boats', db.boat, { list: list(Mine) }) },
    });
    const make = factory(db);
    make('boat');
    const log = { error: () => undefined };
    const server = testServer(mine, db, { rows: make.rows(), log });
    const { status, detail } = (await (await server.ask('GET /boats')).json()) as {
      status: number;
      detail: string;
    };
    expect([status, detail.includes('zone')], detail).to.deep.equal([403, true]);
    const hidden = testServer(mine, db, { rows: make.rows(), log, failures: 'hide' });
    expect(await (await hidden.ask('GET /boats')).json()).to.include({ detail: 'This is not for you.' });
  });
});

describe('nothing sealed', () => {
  const rows = {
    owner: [
      { id: 'x', name: 'Ines', pin: 48151, key: Uint8Array.of(1, 2, 3, 4, 5) },
      { id: 'y', name: 'Bo', pin: 7, key: Uint8Array.of(9, 9, 9, 9) },
    ],
  };

  it('finds numbers, bytes and texts, and names the place and not the value', () => {
    expect(() => assertNothingSealed('{"pin":48151}', db, rows))
      .to.throw(AssertionError)
      .with.property('message', 'What is sealed is in the text.\n+ owner.pin of row 1, at character 8');
    expect(() => assertNothingSealed('{"key":"CQkJCQ=="}', db, rows)).to.throw(
      'owner.key of row 2, at character 9',
    );
    assertNothingSealed('{"name":"Ines","pin":7}', db, rows);
    assertNothingSealed('48151', db, rows, { except: ['owner.pin'] });
    expect(() => assertNothingSealed('x', db, rows, { except: ['owner.pim'] })).to.throw(
      'Did you mean "owner.pin"?',
    );
    assertNothingSealed('48151', db, { ...rows, home: [{ id: 48151, name: 'Quay' }] });
  });

  it('does not pass where there is nothing to look for', () => {
    expect(() => assertNothingSealed('x', db, {}))
      .to.throw('there is nothing to look for')
      .with.property('code', 'MISUSE');
  });
});

describe('an API with editions', () => {
  const Named = shape(db.home, (h) => ({
    id: h.id,
    name: given(editionBefore('2026-05'), h.name),
    title: given(editionFrom('2026-05'), h.name),
  }));
  const homes = api({
    title: 'Homes',
    version: '1.0.0',
    editions: ['2025-11', '2026-05'],
    endpoints: { homes: collection('/homes', db.home, { read: Named }) },
  });
  const rows = { home: [{ id: 1, name: 'Quay' }] };

  it('is asked in the newest, and in the one that a path names', async () => {
    const server = testServer(homes, db, { rows });
    const now: unknown = await (await server.ask('GET /homes/1')).json();
    assertAnswer(homes, 'homes.read', now);
    const then: unknown = await (await server.ask('GET /2025-11/homes/1')).json();
    assertAnswer(homes, 'homes.read', then, { edition: '2025-11' });
    expect([now.title, then.name]).to.deep.equal(['Quay', 'Quay']);
    const old = testServer(homes, db, { rows, unnamed: '2025-11' });
    assertAnswer(homes, 'homes.read', await (await old.ask('GET /homes/1')).json(), { edition: '2025-11' });
  });

  it('has an answer that is right in one, and is told as wrong in the other', () => {
    const body: unknown = { id: 1, name: 'Quay' };
    assertAnswer(homes, 'homes.read', body, { edition: '2025-11' });
    expect(() => assertAnswer(homes, 'homes.read', body))
      .to.throw(AssertionError)
      .with.property('message')
      .that.matches(/- title .*did not come/)
      .and.matches(/name/);
    expect(() => assertAnswer(homes, 'homes.read', Response.json(body)))
      .to.throw('await response.json()')
      .with.property('code', 'MISUSE');
  });
});

describe('a contract that stays', () => {
  const folder = mkdtempSync(join(tmpdir(), 'contract-'));
  const file = join(folder, 'kept/contract.json');
  afterEach(() => {
    delete process.env['GRIBO_CONTRACT'];
  });
  const More = shape(db.boat, (b) => ({ ...Boat(b), hull: b.hull }), { name: 'boat' });
  const more = api({
    title: 'Boats',
    version: '1.0.0',
    endpoints: {
      boats: collection('/boats', db.boat, {
        list: list(More),
        read: More,
        create: { takes: NewBoat, returns: More },
        remove: true,
      }),
    },
  });

  it('is written when it is asked for, and not by itself', () => {
    expect(() => assertContract(boats, file))
      .to.throw('GRIBO_CONTRACT=write')
      .with.property('code', 'MISUSE');
    expect(existsSync(file)).to.equal(false);
    process.env['GRIBO_CONTRACT'] = 'write';
    assertContract(boats, file);
    expect(JSON.parse(readFileSync(file, 'utf8')).title).to.equal('Boats');
  });

  it('tells what differs; what is safe may be allowed', () => {
    assertContract(boats, file);
    expect(() => assertContract(more, file)).to.throw(
      /^Boats is not what .*\n\+ safe {6}hull: .*\n.*GRIBO_CONTRACT=write/,
    );
    assertContract(more, file, { allow: 'safe' });
    process.env['GRIBO_CONTRACT'] = 'write';
    assertContract(more, file);
    delete process.env['GRIBO_CONTRACT'];
    expect(() => assertContract(boats, file, { allow: 'risky' })).to.throw(
      '! breaking  hull: It is not there any more.',
    );
  });

  it('is of this layout', () => {
    const other = join(folder, 'other.json');
    writeFileSync(other, '{"layout":0}');
    expect(() => assertContract(boats, other)).to.throw('it is no contract of this version of Gribo');
  });
});
