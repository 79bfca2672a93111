import { inspect } from 'node:util';
import { expect } from 'chai';
import fc from 'fast-check';
import {
  type AnyBody,
  amending,
  api,
  asked,
  audience,
  collection,
  contractOf,
  given,
  input,
  jsonSchema,
  lineage,
  list,
  loadPlan,
  optional,
  page,
  reader,
  shape,
  wrap,
} from '../index.js';
import { planChange } from '../kit.js';
import { runs } from '../testing/cases.js';
import { ENGINES, looseWriter } from '../testing/engines.js';
import { cases, modelOf, shapesOf } from '../testing/random-shapes.js';
import { callId, stock } from '../testing/stock.js';

// biome-ignore lint/suspicious/noExplicitAny: plans of every kind are copied
type Any = any;

/** A copy of plain data in which nothing is the same object, and nothing is shared. */
const copied = (value: Any): Any => {
  if (typeof value !== 'object' || value === null) return value;
  if (value instanceof RegExp || value instanceof Date || value instanceof Uint8Array) return value;
  if (value instanceof Map) return new Map([...value].map(([key, inner]) => [key, copied(inner)]));
  if (Array.isArray(value)) return Object.freeze(value.map(copied));
  const entries = Reflect.ownKeys(value).map((key) => [key, copied(value[key])]);
  return Object.freeze(Object.fromEntries(entries));
};

const copyOf = <B extends { readonly plan: unknown }>(of: B): B =>
  ({ plan: copied(of.plan) }) as unknown as B;

const told = (value: unknown): string => inspect(value, { depth: null });

const sameBody = (body: AnyBody, data: unknown, situations: readonly object[]): void => {
  const copy = copyOf(body);
  for (const situation of situations) {
    for (const engine of ENGINES) {
      const text = looseWriter(body, engine, situation).json(data);
      expect(looseWriter(copy, engine, situation).json(data)).to.equal(text);
      expect(Buffer.from(looseWriter(copy, engine, situation).bytes(data)).toString()).to.equal(
        Buffer.from(looseWriter(body, engine, situation).bytes(data)).toString(),
      );
    }
    expect(jsonSchema(copy, situation)).to.deep.equal(jsonSchema(body, situation));
    expect(told(loadPlan(copy, situation))).to.equal(told(loadPlan(body, situation)));
  }
};

describe('plans are whole', () => {
  it('a deep copy of any body gives the same bytes, schema and load plan', () => {
    fc.assert(
      fc.property(cases, ({ columnsOf, chosen, rows }) => {
        const body = list(shapesOf(modelOf(columnsOf), columnsOf, chosen));
        sameBody(body, rows, [{}]);
      }),
      runs(60),
    );
  });

  const Pilot = shape(stock.pilot, ({ name }) => ({ name }));
  const Call = shape(stock.portCall, (c) => ({ id: c.id, pilots: given(asked('pilots'), Pilot(c.pilots)) }));
  const Vessel = shape(stock.vessel, (v) => ({
    id: v.id,
    kind: given(audience('office'), v.kind),
    // Called as the columns of an envelope are.
    size: v.builtYear,
    calls: Call(v.portCalls),
  }));
  const situations = [{}, { audience: 'office' }, { asked: ['pilots'] }, { fields: ['id', 'calls.id'] }];
  const row = {
    id: 1,
    kind: 'tug',
    builtYear: 1990,
    portCalls: [{ id: callId(1), pilots: [{ name: 'Ines' }] }],
  };

  it('a deep copy of pages and wrapped bodies does, in every situation', () => {
    const items = { items: [row], number: 1, size: 1, total: 1, pages: 1, next: null, previous: null };
    sameBody(page(Vessel, {}), items, situations);
    sameBody(page(Vessel, { by: 'cursor' }), { ...items, number: null, pages: null }, situations);
    sameBody(
      wrap(Vessel, (content, info) => ({ data: { inner: content }, at: info.number })),
      { item: row, number: null },
      situations,
    );
  });

  it('a deep copy of an API gives the same contract, lineage and document', () => {
    const office = api({
      title: 'Office',
      version: '1.0.0',
      audiences: ['office'],
      endpoints: {
        vessels: collection('/vessels', stock.vessel, {
          list: page(Vessel, {}),
          read: Vessel,
          remove: true,
          audiences: { remove: ['office'] },
        }),
      },
    });
    const copy = copyOf(office);
    expect(contractOf(copy)).to.deep.equal(contractOf(office));
    expect(lineage(copy)).to.deep.equal(lineage(office));
  });

  it('a deep copy of an input gives the same changes and issues, and they the same steps', () => {
    const NewPilot = input(stock.pilot, ({ name }) => ({ name }));
    const NewCall = input(stock.portCall, (c) => ({
      id: c.id,
      eta: c.eta,
      status: c.status,
      pilots: optional(NewPilot(c.pilots)),
    }));
    const New = input(stock.vessel, (v) => ({
      name: v.name,
      more: optional({ sign: v.callSign }),
      calls: NewCall(v.portCalls),
    }));
    const bodies = [
      {
        name: 'A',
        calls: [{ id: callId(1), eta: '2026-03-01T06:00:00Z', status: 'sailed', pilots: [{ name: 'B' }] }],
      },
      { name: 5, more: { sign: null }, calls: [{}] },
      { more: 1, stranger: 2 },
    ];
    const model = Object.fromEntries(
      Object.entries(stock).map(([name, { entity, links }]) => [name, copied({ entity, links })]),
    );
    for (const one of [New, amending(New, ({ name, ...rest }) => rest)]) {
      for (const engine of ENGINES) {
        for (const body of bodies) {
          const got = reader(one as Any, {}, { engine }).object(body) as Any;
          expect(told(reader(copyOf(one) as Any, {}, { engine }).object(body))).to.equal(told(got));
          if (!got.ok) continue;
          const wanted = { operation: 'create', entity: 'vessel', change: got.value } as const;
          expect(planChange(model, wanted)).to.deep.equal(planChange(stock, wanted));
        }
      }
    }
  });
});
