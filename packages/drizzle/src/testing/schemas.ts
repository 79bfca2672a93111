import { relations } from 'drizzle-orm';
import * as my from 'drizzle-orm/mysql-core';
import * as pg from 'drizzle-orm/pg-core';
import * as lite from 'drizzle-orm/sqlite-core';

/** The stock's tables, as each of Drizzle's dialects declares them. */
const operator = pg.pgTable('operator', {
  id: pg.integer().primaryKey().generatedByDefaultAsIdentity(),
  name: pg.varchar({ length: 80 }).notNull().unique(),
  parentId: pg.integer('parent_id'),
});
const vessel = pg.pgTable('vessel', {
  id: pg.integer().primaryKey().generatedByDefaultAsIdentity(),
  name: pg.varchar({ length: 60 }).notNull(),
  callSign: pg.varchar('call_sign', { length: 40 }),
  kind: pg.text({ enum: ['bulk', 'tanker', 'tug'] }).notNull(),
  builtYear: pg.integer('built_year').notNull(),
  tonnage: pg.numeric({ precision: 10, scale: 1 }).notNull(),
  draught: pg.doublePrecision().notNull(),
  active: pg.boolean().notNull(),
  weight: pg.bigint({ mode: 'bigint' }).notNull(),
  registered: pg.date(),
  opens: pg.time(),
  surveyedAt: pg.timestamp('surveyed_at', { withTimezone: true }),
  details: pg.jsonb(),
  photo: pg.customType<{ data: Uint8Array }>({ dataType: () => 'bytea' })(),
  operatorId: pg.integer('operator_id').references(() => operator.id),
});
const portCall = pg.pgTable('port_call', {
  id: pg.uuid().primaryKey(),
  vesselId: pg
    .integer('vessel_id')
    .notNull()
    .references(() => vessel.id),
  eta: pg.timestamp().notNull(),
  status: pg.text({ enum: ['announced', 'berthed', 'sailed'] }).notNull(),
  remarks: pg.varchar({ length: 200 }),
});
const pilot = pg.pgTable('pilot', {
  id: pg.integer().primaryKey().generatedByDefaultAsIdentity(),
  name: pg.varchar({ length: 40 }).notNull(),
});
const pilotage = pg.pgTable(
  'pilotage',
  { portCallId: pg.uuid('port_call_id').notNull(), pilotId: pg.integer('pilot_id').notNull() },
  (t) => [pg.primaryKey({ columns: [t.portCallId, t.pilotId] })],
);

export const postgresStock = {
  operator,
  vessel,
  portCall,
  pilot,
  pilotage,
  operatorRelations: relations(operator, ({ one, many }) => ({
    parent: one(operator, { fields: [operator.parentId], references: [operator.id] }),
    vessels: many(vessel),
  })),
  vesselRelations: relations(vessel, ({ one, many }) => ({
    operator: one(operator, { fields: [vessel.operatorId], references: [operator.id] }),
    portCalls: many(portCall),
  })),
  portCallRelations: relations(portCall, ({ one }) => ({
    vessel: one(vessel, { fields: [portCall.vesselId], references: [vessel.id] }),
  })),
  pilotageRelations: relations(pilotage, ({ one }) => ({
    portCall: one(portCall, { fields: [pilotage.portCallId], references: [portCall.id] }),
    pilot: one(pilot, { fields: [pilotage.pilotId], references: [pilot.id] }),
  })),
};

export const mysqlStock = {
  vessel: my.mysqlTable('vessel', {
    id: my.int().primaryKey().autoincrement(),
    name: my.varchar({ length: 60 }).notNull(),
    callSign: my.varchar('call_sign', { length: 40 }),
    kind: my.mysqlEnum(['bulk', 'tanker', 'tug']).notNull(),
    builtYear: my.int('built_year').notNull(),
    tonnage: my.decimal({ precision: 10, scale: 1 }).notNull(),
    draught: my.double().notNull(),
    active: my.boolean().notNull(),
    weight: my.bigint({ mode: 'bigint' }).notNull(),
    registered: my.date({ mode: 'string' }),
    opens: my.time(),
    surveyedAt: my.datetime('surveyed_at', { fsp: 6 }),
    details: my.json(),
    photo: my.varbinary({ length: 64 }),
    operatorId: my.int('operator_id'),
  }),
};

export const sqliteStock = {
  vessel: lite.sqliteTable('vessel', {
    id: lite.integer().primaryKey({ autoIncrement: true }),
    name: lite.text({ length: 60 }).notNull(),
    callSign: lite.text('call_sign', { length: 40 }),
    kind: lite.text({ enum: ['bulk', 'tanker', 'tug'] }).notNull(),
    builtYear: lite.integer('built_year').notNull(),
    tonnage: lite.numeric().notNull(),
    draught: lite.real().notNull(),
    active: lite.integer({ mode: 'boolean' }).notNull(),
    weight: lite.integer().notNull(),
    registered: lite.text(),
    opens: lite.text(),
    surveyedAt: lite.text('surveyed_at'),
    details: lite.text({ mode: 'json' }),
    photo: lite.blob({ mode: 'buffer' }),
    operatorId: lite.integer('operator_id'),
  }),
};
