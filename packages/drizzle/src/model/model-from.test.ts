import { expect } from 'chai';
import { relations, sql } from 'drizzle-orm';
import * as pg from 'drizzle-orm/pg-core';
import { bytes, DeclarationError, decimal } from 'gribo';
import type { ColumnPlan, LinkPlan } from 'gribo/kit';
import { stock } from '../../../gribo/src/testing/stock.js';
import { drizzleStore, modelFrom } from '../index.js';
import { mysqlStock, postgresStock, sqliteStock } from '../testing/schemas.js';

const told = (run: () => unknown): readonly string[] => {
  try {
    run();
  } catch (error) {
    if (error instanceof DeclarationError)
      return error.findings.map(({ path, message }) => `${path}: ${message}`);
    throw error;
  }
  return [];
};

/** A column without its limits, which Drizzle's tables do not say. */
const outline = ({ name, stored, type, nullable, key, generated, unique }: ColumnPlan): unknown => {
  const { kind } = type;
  const choices = type.kind === 'oneOf' ? type.choices : null;
  return { name, stored, kind, choices, nullable, key, generated, unique };
};

const linkOutline = ({ kind, name, from, to, nullable, target }: LinkPlan): unknown => ({
  kind,
  name,
  from,
  to,
  nullable,
  target: target.name,
});

describe('the model of a schema of Drizzle', () => {
  const fleet = modelFrom(postgresStock, {
    vessel: () => ({ photo: bytes().nullable() }),
  });

  it('has the entities, columns and links that are declared by hand over the same tables', () => {
    for (const name of ['operator', 'vessel', 'portCall', 'pilot', 'pilotage'] as const) {
      const { entity, links } = fleet[name];
      expect(entity.table).to.equal(stock[name].entity.table);
      expect(entity.columns.map(outline), name).to.deep.equal(stock[name].entity.columns.map(outline));
      const direct = [...stock[name].links.values()].filter(({ through }) => through === null);
      expect([...links.values()].map(linkOutline), name).to.deep.equal(direct.map(linkOutline));
    }
  });

  it('has the same columns of tables of MySQL and SQLite, as far as those have types for them', () => {
    const expected = stock.vessel.entity.columns.map(outline);
    expect(modelFrom(mysqlStock).vessel.entity.columns.map(outline)).to.deep.equal(expected);
    const lite = modelFrom(sqliteStock).vessel.entity.columns;
    expect(lite.map(({ type: { kind } }) => kind)).to.deep.equal([
      'integer',
      'text',
      'text',
      'oneOf',
      'integer',
      'decimal',
      'real',
      'bool',
      'integer',
      'text',
      'text',
      'text',
      'json',
      'bytes',
      'integer',
    ]);
  });

  it('knows what is unique alone in all rows, by its column, a constraint or an index', () => {
    const crate = pg.pgTable(
      'crate',
      {
        id: pg.integer().primaryKey(),
        one: pg.text().notNull().unique(),
        two: pg.text().notNull(),
        three: pg.text().notNull(),
        four: pg.text().notNull(),
        five: pg.text().notNull(),
        six: pg.text().notNull(),
      },
      (t) => [
        pg.unique().on(t.two),
        pg.uniqueIndex('by_three').on(t.three),
        pg.uniqueIndex('by_both').on(t.four, t.five),
        pg.unique().on(t.five, t.six),
        pg.uniqueIndex('by_some').on(t.six).where(sql`six <> ''`),
        pg.index('by_four').on(t.four),
      ],
    );
    const { columns } = modelFrom({ crate }).crate.entity;
    expect(columns.filter(({ unique }) => unique).map(({ name }) => name)).to.deep.equal([
      'one',
      'two',
      'three',
    ]);
  });

  it('keeps names that Drizzle makes of properties, as it is told', () => {
    const boxes = pg.pgTable('mail_box', {
      boxId: pg.integer().primaryKey(),
      isOpen: pg.boolean().notNull(),
    });
    const stored = (casing?: 'snake_case' | 'camelCase') =>
      modelFrom({ boxes }, {}, casing === undefined ? {} : { casing }).boxes.entity.columns.map(
        (column) => column.stored,
      );
    expect(stored()).to.deep.equal(['boxId', 'isOpen']);
    expect(stored('snake_case')).to.deep.equal(['box_id', 'is_open']);
    expect(modelFrom({ boxes }).boxes.entity.table).to.equal('mail_box');
    const far = pg.pgSchema('office').table('desk', { id: pg.integer().primaryKey() });
    expect(modelFrom({ far }).far.entity.table).to.equal('office.desk');
  });

  it('takes what is said over its columns, and keeps where they are stored', () => {
    const said = modelFrom(postgresStock, {
      operator: ({ name }) => ({ name: name.sealed('personal') }),
      vessel: ({ callSign }) => ({ photo: null, callSign: callSign.about('The radio call sign.') }),
      portCall: () => ({ remarks: decimal(8, 2).nullable() }),
    });
    const column = (entity: 'operator' | 'vessel' | 'portCall', name: string) =>
      said[entity].entity.columns.find((each) => each.name === name);
    expect(column('operator', 'name')?.sealed).to.equal('personal');
    expect(column('vessel', 'photo')).to.equal(undefined);
    expect(column('vessel', 'callSign')).to.include({
      about: 'The radio call sign.',
      stored: 'call_sign',
    });
    expect(column('portCall', 'remarks')).to.deep.include({ stored: 'remarks', nullable: true });
  });

  it('says of every column that has no kind what to do, and of every relation that leads nowhere', () => {
    const quay = pg.pgTable('quay', { id: pg.integer().primaryKey(), at: pg.point().notNull() });
    const berth = pg.pgTable('berth', {
      id: pg.integer().primaryKey(),
      quayId: pg.integer('quay_id').notNull(),
      marks: pg.point().array(),
    });
    const findings = told(() =>
      modelFrom({
        berth,
        quay,
        berthRelations: relations(berth, ({ one, many }) => ({
          quay: one(quay, { fields: [berth.quayId], references: [quay.id] }),
          others: many(quay),
        })),
      }),
    );
    expect(findings).to.have.length(3);
    expect(findings[0]).to.equal(
      'berth.marks: no column holds a point[] as it is: say what it is, as in { berth: () => ({ marks: text() }) }, or leave it out with null',
    );
    expect(findings[1]).to.contain('quay.at: no column holds a point');
    expect(findings[2]).to.match(/^berth\.others: There is not enough information to infer relation/);
    expect(told(() => modelFrom({ quay }, { quay: () => ({ at: null }) }))).to.deep.equal([]);
    expect(told(() => modelFrom({ quay }, { quay: () => ({ at: null, att: null }) as never }))).to.deep.equal(
      ['quay.att: the table has no such column'],
    );
    const others = { quays: () => ({}), quay: () => ({ at: null }) };
    expect(told(() => modelFrom({ quay }, others))).to.deep.equal(['quays: the schema has no such table']);
  });

  it('says that a function of Drizzle gave SQL, where it did', async () => {
    const slip = pg.pgTable('slip', {
      id: pg.integer().primaryKey(),
      made: pg
        .text()
        .notNull()
        .$defaultFn(() => sql`now()`),
    });
    const stamp = modelFrom({ slip }).slip.entity.columns[1]?.stamped;
    const make = stamp?.value;
    if (typeof make !== 'function') throw new Error('it is stamped');
    expect(() => make({ caller: {}, now: new Date() })).to.throw(/gave SQL, which only the database can run/);
  });

  it('is of PostgreSQL, MySQL or SQLite, and a store takes nothing else', () => {
    expect(() => drizzleStore(stock, { query: {} } as never)).to.throw(/expected what drizzle\(\) gives/);
  });
});
