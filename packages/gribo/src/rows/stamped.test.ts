import { expect } from 'chai';
import {
  api,
  bigint,
  bool,
  callerOf,
  collection,
  entity,
  input,
  inputFrom,
  integer,
  isNull,
  list,
  loadPlan,
  memoryStore,
  model,
  rowRule,
  type StampGiven,
  shape,
  storeFor,
  text,
  timestamp,
  toMany,
  toOne,
  writer,
} from '../index.js';
import { planChange, unsetColumns } from '../kit.js';
import { declarationError } from '../testing/engines.js';

const caller = callerOf({ user: text() });

const db = model(
  {
    invoice: entity('invoice', {
      id: integer().key().generated(),
      title: text(),
      createdBy: text().stamped('create', ({ caller: { user } }) => String(user ?? 'nobody')),
      updatedAt: timestamp().stamped('change', ({ now }) => now),
      deletedAt: timestamp()
        .nullable()
        .stamped('remove', ({ now }) => now),
    }),
    line: entity('line', {
      id: integer().key().generated(),
      invoiceId: integer(),
      text: text(),
      updatedAt: timestamp().stamped('change', ({ now }) => now),
    }),
  },
  { invoice: { lines: toMany('line', 'invoiceId') }, line: { invoice: toOne('invoice', 'invoiceId') } },
);

const Line = shape(db.line, (l) => ({ text: l.text, at: l.updatedAt }));
const Invoice = shape(db.invoice, (i) => ({
  title: i.title,
  by: i.createdBy,
  at: i.updatedAt,
  gone: i.deletedAt,
  lines: Line(i.lines),
}));
const NewInvoice = input(db.invoice, (i) => ({ title: i.title }));

const office = api({
  title: 'Invoices',
  version: '1',
  caller,
  rows: [rowRule(db.invoice, (i) => isNull(i.deletedAt))],
  endpoints: {
    invoices: collection('/invoices', db.invoice, {
      list: list(Invoice),
      create: { takes: NewInvoice, returns: Invoice },
      remove: true,
    }),
  },
});

const at = (day: number): Date => new Date(Date.UTC(2026, 4, day));

describe('stamped columns', () => {
  const store = memoryStore(db);
  const as = (user: string, day: number) => storeFor(store, office, { user }, at(day));
  const all = async (by = as('ines', 9)): Promise<unknown[]> =>
    writer(list(Invoice)).object((await by.list(loadPlan(Invoice))) as never);

  it('are set by the change itself: who, when, in nested rows too', async () => {
    const [id = 0] = await as('ines', 1).create('invoice', { title: 'A', lines: [{ text: 'x' }] });
    expect(await all()).to.deep.equal([
      {
        title: 'A',
        by: 'ines',
        at: at(1).toISOString(),
        gone: null,
        lines: [{ text: 'x', at: at(1).toISOString() }],
      },
    ]);
    await as('tomas', 2).amend('invoice', [id], { title: 'B' });
    expect(await all()).to.deep.equal([
      {
        title: 'B',
        by: 'ines',
        at: at(2).toISOString(),
        gone: null,
        lines: [{ text: 'x', at: at(1).toISOString() }],
      },
    ]);
    // Rows that are nested are of the invoice: it changes with them.
    await as('tomas', 3).amend('invoice', [id], { lines: [{ text: 'y' }] });
    expect((await all())[0]).to.deep.include({
      at: at(3).toISOString(),
      lines: [{ text: 'y', at: at(3).toISOString() }],
    });
    await as('tomas', 4).amend('invoice', [id], {});
    expect((await all())[0], 'nothing was changed').to.deep.include({ at: at(3).toISOString() });
  });

  it('leave a removed row where it is, and a rule hides it', async () => {
    const [id = 0] = await as('ines', 5).create('invoice', { title: 'C' });
    expect(await as('ines', 6).remove('invoice', [id])).to.equal(true);
    expect(await as('ines', 7).remove('invoice', [id]), 'it is not there any more').to.equal(false);
    expect(await as('ines', 7).amend('invoice', [id], { title: 'D' })).to.equal(false);
    expect((await all()).map((one) => (one as { title: string }).title)).to.deep.equal(['B']);
    const stored = writer(list(Invoice)).object((await store.list(loadPlan(Invoice))) as never);
    expect(stored[1]).to.include({ title: 'C', gone: at(6).toISOString(), at: at(6).toISOString() });
  });

  it('count whole numbers only, and never nothing', () => {
    const wrong = (column: unknown): string =>
      declarationError(() =>
        entity('note', { id: integer().key(), n: column as ReturnType<typeof integer> }),
      );
    expect(wrong(text().counting())).to.contain(
      'it counts changes: integer().counting() or bigint().counting()',
    );
    expect(wrong(integer().nullable().counting())).to.contain('so it is never null');
    const note = entity('note', { id: integer().key(), n: bigint().counting(), title: text() });
    const notes = model({ note }, {});
    expect(declarationError(() => input(notes.note, (n) => ({ n: n.n }) as never))).to.contain(
      'n is counted by each change: leave it out',
    );
    const { steps } = planChange(notes, {
      operation: 'create',
      entity: 'note',
      change: { id: 1, title: 'a' },
    });
    expect(steps[0]).to.deep.include({ rows: [{ n: 1n, id: 1, title: 'a' }] });
  });

  it('are not for inputs, and need none', () => {
    const Flat = shape(db.invoice, (i) => ({ title: i.title, by: i.createdBy, at: i.updatedAt }));
    expect(inputFrom(Flat).leftOut).to.deep.equal([
      { member: 'by', why: 'each change stamps it' },
      { member: 'at', why: 'each change stamps it' },
    ]);
    expect(declarationError(() => input(db.invoice, (i) => ({ by: i.createdBy }) as never))).to.contain(
      'createdBy is stamped by each change: leave it out, or say assigned(v.createdBy)',
    );
    const create = office.plan.endpoints.find(({ operation }) => operation === 'create');
    expect(create === undefined ? null : unsetColumns(create, null)).to.deep.equal([]);
    const { steps } = planChange(db, { operation: 'remove', entity: 'invoice', key: [1] });
    expect(steps.map(({ kind }) => kind)).to.deep.equal(['find', 'update']);
  });

  it('that want for a fact are the caller’s matter: nothing is stored', async () => {
    for (const value of [
      (given: StampGiven) => given.caller['user'] as string,
      (given: StampGiven) => (given.caller['user'] as string).toUpperCase(),
    ]) {
      const note = entity('note', { id: integer().key().generated(), by: text().stamped('create', value) });
      const notes = memoryStore(model({ note }, {}));
      const failed = await notes.create('note', {}).catch((error: Error) => error);
      expect(failed).to.include({ code: 'CALLER', path: 'caller.user' });
      expect((failed as Error).message).to.contain('note.by is stamped with it');
      expect(await notes.count('note')).to.equal(0);
    }
  });

  it("are looked at like the values of rows: what is none is nobody else's conflict", async () => {
    const wrong = async (make: () => unknown): Promise<string> => {
      const made = entity('note', {
        id: integer().key().generated(),
        by: integer().stamped('create', make as () => number),
      });
      return memoryStore(model({ note: made }, {}))
        .create('note', {})
        .then(
          () => 'nothing is wrong',
          ({ code, message }) => `${code} ${message}`,
        );
    };
    expect(await wrong(() => 7)).to.equal('nothing is wrong');
    expect(await wrong(() => undefined)).to.equal(
      'ROW_FUNCTION note.by: expected an integer from stamped(…), got nothing',
    );
    expect(await wrong(() => 'ines')).to.equal(
      'ROW_FUNCTION note.by: expected an integer from stamped(…), got a string',
    );
    const boom = (): never => {
      throw new Error('secret');
    };
    expect(await wrong(boom)).to.equal(
      'ROW_FUNCTION note.by: expected an integer from stamped(…): its function threw',
    );
  });

  it('may wait for the removal where a row can be without them', () => {
    const stamped = timestamp().stamped('remove', ({ now }) => now);
    expect(declarationError(() => entity('note', { id: integer().key(), goneAt: stamped }))).to.contain(
      'note.goneAt: a row is without it until it is removed: add .nullable() or .defaulted()',
    );
    const kept = entity('note', {
      id: integer().key(),
      goneAt: stamped.nullable(),
      gone: bool()
        .defaulted()
        .stamped('remove', () => true),
    });
    expect(Object.keys(kept.columns)).to.have.length(3);
  });
});
