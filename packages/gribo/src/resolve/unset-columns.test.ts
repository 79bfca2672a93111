import { expect } from 'chai';
import {
  bool,
  collection,
  entity,
  everything,
  input,
  integer,
  loadPlan,
  memoryStore,
  model,
  optional,
  preset,
  shape,
  type Takable,
  text,
  toMany,
  toOne,
} from '../index.js';
import { unsetColumns } from '../kit.js';

const db = model(
  {
    owner: entity('owner', { id: integer().key().generated(), name: text() }),
    boat: entity('boat', {
      id: integer().key().generated(),
      name: text(),
      sails: integer(),
      note: text().nullable(),
      masts: integer().defaulted(),
      ownerId: integer(),
    }),
    log: entity('log', { id: integer().key(), boatId: integer(), line: text() }),
  },
  {
    boat: { owner: toOne('owner', 'ownerId'), logs: toMany('log', 'boatId') },
    log: { boat: toOne('boat', 'boatId') },
  },
);
const Boat = shape(db.boat, ({ id, name, masts }) => ({ id, name, masts }));
const lacking = (takes: Takable): readonly string[] => {
  const { plans } = collection('/boats', db.boat, { create: { takes, returns: Boat } });
  return [...plans].flatMap(([name, plan]) => unsetColumns({ name, ...plan }, null));
};

describe('the columns that a create does not set', () => {
  const Log = input(db.log, ({ id, line }) => ({ id, line }));
  const Bare = input(db.log, ({ line }) => ({ line }));
  const Owner = input(db.owner, ({ name }) => ({ name }));
  const Nobody = input(db.owner, ({ name }) => ({ name: optional(name) }));

  it('are those that every row has, and nobody makes', () => {
    expect(lacking(input(db.boat, ({ name }) => ({ name })))).to.deep.equal(['sails', 'ownerId']);
    expect(
      lacking(input(db.boat, (b) => ({ name: b.name, of: { sails: b.sails }, ownerId: b.ownerId }))),
    ).to.deep.equal([]);
    expect(
      lacking(
        input(db.boat, (b) => ({ name: optional(b.name), sails: preset(b.sails, 1), ownerId: b.ownerId })),
      ),
    ).to.deep.equal([]);
  });

  it('are not those that links set, and those of rows that are made along', () => {
    expect(
      lacking(input(db.boat, (b) => ({ name: b.name, sails: b.sails, owner: Owner(b.owner) }))),
    ).to.deep.equal([]);
    expect(
      lacking(input(db.boat, (b) => ({ name: b.name, sails: b.sails, owner: Nobody(b.owner) }))),
    ).to.deep.equal([]);
    const within = input(db.boat, (b) => ({
      name: b.name,
      sails: b.sails,
      ownerId: b.ownerId,
      logs: Log(b.logs),
    }));
    expect(lacking(within)).to.deep.equal([]);
    const bare = input(db.boat, (b) => ({
      name: b.name,
      sails: b.sails,
      ownerId: b.ownerId,
      logs: Bare(b.logs),
    }));
    expect(lacking(bare)).to.deep.equal(['logs.id']);
    const maybe = input(db.boat, (b) => ({
      name: b.name,
      sails: b.sails,
      ownerId: b.ownerId,
      logs: optional(Bare(b.logs)),
    }));
    expect(lacking(maybe)).to.deep.equal([]);
  });

  it('are none under a parent, and of what is no create', () => {
    const logs = collection('/boats/{boat}/logs', db.log, {
      under: 'boat',
      create: { takes: Log },
      replace: { takes: Bare },
    });
    const plans = [...logs.plans].map(([name, plan]) => unsetColumns({ name, ...plan }, null));
    expect(plans).to.deep.equal([[], []]);
  });

  it('are made in memory where the database would: a number, a moment, false; text is not', async () => {
    const columns = { id: integer().key(), masts: integer().defaulted(), afloat: bool().defaulted() };
    const made = model({ boat: entity('boat', { ...columns, name: text().defaulted() }) }, {});
    const store = memoryStore(made, {});
    await store.create('boat', { id: 7, name: 'Anselma' });
    expect(await store.read(loadPlan(shape(made.boat, (b) => ({ ...everything(b) }))), [7])).to.deep.include({
      masts: 1,
      afloat: false,
    });
    const error = await store.create('boat', { id: 8 }).catch((thrown: unknown) => thrown);
    expect(error).to.include({ code: 'CONFLICT', reason: 'missing' });
  });
});
