import { expect } from 'chai';
import {
  all,
  any,
  asked,
  at,
  atLeast,
  atMost,
  audience,
  constant,
  contains,
  count,
  deprecated,
  derive,
  entity,
  equals,
  everything,
  first,
  given,
  holds,
  integer,
  isNull,
  list,
  loadPlan,
  model,
  not,
  oneOfThese,
  recursive,
  shape,
  some,
  text,
  toMany,
  toOne,
  unlessNull,
  unseal,
} from '../../index.js';
import { figures } from '../../kit.js';
import { declarationError, writeError, written, writtenRow } from '../../testing/engines.js';
import { bareVesselRow, fleet, vesselRow } from '../../testing/fleet.js';

// biome-ignore lint/suspicious/noExplicitAny: wrong declarations are the point
type Any = any;

const CallId = shape(fleet.portCall, ({ id }) => ({ id }), { name: 'CallId' });

describe('derive', () => {
  it('computes from its dependencies, links and other derived values included', () => {
    const S = shape(fleet.vessel, (v) => {
      const age = derive([v.builtYear], integer(), (year) => 2026 - year);
      return {
        age,
        label: derive(
          [v.name, v.operator.name, age],
          text(),
          (name, by, years) => `${name} (${by ?? '?'}), ${years}`,
        ),
      };
    });
    expect(writtenRow(S, vesselRow)).to.deep.equal({ age: 36, label: 'Anselma (Lantern Bay), 36' });
    expect(writtenRow(S, bareVesselRow)).to.deep.equal({ age: 36, label: 'Anselma (?), 36' });
  });

  it('may return null where its type says so, and only there', () => {
    const Maybe = shape(fleet.vessel, (v) => ({ x: derive([v.id], text().nullable(), () => null) }));
    expect(writtenRow(Maybe, vesselRow)).to.deep.equal({ x: null });
    const Never = shape(fleet.vessel, (v) => ({ x: derive([v.id], text(), (() => null) as Any) }));
    expect(writeError(Never, vesselRow).message).to.equal('vessel.x: expected a string, got null');
  });

  it('is null where it is spread over a missing row, without being computed', () => {
    const Loud = shape(fleet.operator, (o) => ({
      loud: derive([o.name], text(), (name) => name.toUpperCase()),
    }));
    const S = shape(fleet.vessel, (v) => ({ ...Loud(v.operator) }));
    expect(writtenRow(S, vesselRow)).to.deep.equal({ loud: 'LANTERN BAY' });
    expect(writtenRow(S, bareVesselRow)).to.deep.equal({ loud: null });
  });

  it('over a sealed column is sealed, and so are conversions of it', () => {
    const message = declarationError(() =>
      shape(fleet.vessel, (v) => ({ x: derive([v.name, v.masterPhone], text(), (a, b) => a + b) }) as Any),
    );
    expect(message).to.contain('vessel.x: this column is sealed (personal)');
  });

  it('says which member it was when the function throws, and keeps the cause', () => {
    const S = shape(fleet.vessel, (v) => ({
      deep: {
        x: derive([v.id], text(), () => {
          throw new Error('no luck');
        }),
      },
    }));
    const error = writeError(S, vesselRow);
    expect(error.code).to.equal('ROW_FUNCTION');
    expect(error.path).to.equal('vessel.deep.x');
    expect(error.message).to.contain('"no luck"');
    expect(error.cause).to.be.instanceOf(Error);
  });

  it('takes values of one row only', () => {
    let other: Any;
    shape(fleet.vessel, (v) => {
      other = v.id;
      return { id: v.id };
    });
    const message = declarationError(() =>
      shape(fleet.vessel, (v) => ({ x: derive([v.id, other], integer(), (a) => a) }) as Any),
    );
    expect(message).to.contain('derive takes values of one row');
  });
});

describe('count, first and some', () => {
  it('count the rows of a link, or take the count that the store made', () => {
    const S = shape(fleet.vessel, (v) => ({
      all: count(v.portCalls),
      berthed: count(some(v.portCalls, { where: (c) => [equals(c.status, 'berthed')] })),
      sisters: count(v.operator.vessels),
    }));
    expect(writtenRow(S, { ...vesselRow, operator: { vessels: [1, 2] } })).to.deep.equal({
      all: 3,
      berthed: 2,
      sisters: 2,
    });
    expect(writtenRow(S, bareVesselRow)).to.deep.equal({ all: 0, berthed: 0, sisters: null });
    const [, filtered] = loadPlan(S).figures;
    const counted = { operator: null, [figures]: { portCalls: 41, [filtered?.name ?? '']: 5 } };
    expect(writtenRow(S, counted)).to.deep.equal({ all: 41, berthed: 5, sisters: null });
    const wrong = { operator: null, [figures]: { portCalls: -1 } };
    expect(writeError(S, wrong).message).to.contain('vessel.all: expected the count of "portCalls", got -1');
  });

  it('nest the first row, or null where there is none', () => {
    const S = shape(fleet.vessel, (v) => ({
      any: first(v.portCalls, CallId),
      last: first(some(v.portCalls, { sort: ['eta desc'] }), CallId),
      none: first(some(v.portCalls, { where: (c) => [equals(c.status, 'announced')] }), CallId),
    }));
    expect(writtenRow(S, vesselRow)).to.deep.equal({ any: { id: 11 }, last: { id: 12 }, none: null });
    expect(writtenRow(S, bareVesselRow)).to.deep.equal({ any: null, last: null, none: null });
  });

  it('filter by every comparison', () => {
    const march = new Date('2026-03-15T00:00:00Z');
    const S = shape(fleet.vessel, (v) => ({
      equals: CallId(some(v.portCalls, { where: (c) => [equals(c.status, 'berthed')] })),
      oneOfThese: CallId(some(v.portCalls, { where: (c) => [oneOfThese(c.id, [11, 13])] })),
      atLeast: CallId(some(v.portCalls, { where: (c) => [atLeast(c.eta, march)] })),
      atMost: CallId(some(v.portCalls, { where: (c) => [atMost(c.eta, march)] })),
      contains: CallId(some(v.portCalls, { where: (c) => [contains(c.remarks, 'AGENT')] })),
      isNull: CallId(some(v.portCalls, { where: (c) => [isNull(c.remarks)] })),
      isNotNull: CallId(
        some(v.portCalls, { where: (c) => [isNull(c.remarks, false), equals(c.status, 'sailed')] }),
      ),
    }));
    const ids = (...numbers: number[]) => numbers.map((id) => ({ id }));
    expect(writtenRow(S, vesselRow)).to.deep.equal({
      equals: ids(12, 13),
      oneOfThese: ids(11, 13),
      atLeast: ids(12, 13),
      atMost: ids(11),
      contains: ids(13),
      isNull: ids(12),
      isNotNull: ids(11),
    });
  });

  it('sort either way with nulls last, and limit after sorting', () => {
    const S = shape(fleet.vessel, (v) => ({
      up: CallId(some(v.portCalls, { sort: ['remarks', 'id'] })),
      down: CallId(some(v.portCalls, { sort: ['remarks desc'] })),
      two: CallId(some(v.portCalls, { sort: ['status', 'eta desc'], limit: 2 })),
    }));
    expect(writtenRow(S, vesselRow)).to.deep.equal({
      up: [{ id: 13 }, { id: 11 }, { id: 12 }],
      down: [{ id: 11 }, { id: 13 }, { id: 12 }],
      two: [{ id: 12 }, { id: 13 }],
    });
  });

  it('refuse unknown and sealed columns, wrong limits, and links to another entity', () => {
    const message = declarationError(() =>
      shape(fleet.operator, (o: Any) => ({
        a: CallId(o.vessels),
        b: count(some(o.vessels, { sort: ['nam'] } as Any)),
        c: count(some(o.vessels, { sort: ['masterPhone'] } as Any)),
        d: count(some(o.vessels, { limit: 0 })),
        e: count(some(o.vessels, { where: (v: Any) => [equals(v.masterPhone, 'x')] })),
        f: count(o.parent),
        g: first(o.vessels, CallId),
        h: count(some(o.vessels, { where: () => [1] } as Any)),
      })),
    );
    expect(message).to.contain(
      'operator.b: cannot sort by "nam": vessel has no such column. Did you mean "name"?',
    );
    expect(message).to.contain(
      'operator.c: cannot sort by "masterPhone": the order would show a sealed column',
    );
    expect(message).to.contain('operator.d: limit must be a whole number of 1 or more, got 0');
    expect(message).to.contain('operator.e: a sealed column cannot decide which rows are shown');
    expect(message).to.contain('operator.f: count takes a to-many link');
    expect(message).to.contain('operator.g: CallId is a shape over portCall, but the link leads to vessel');
    expect(message).to.contain('operator.h: expected a condition such as equals');
    expect(message).to.contain('8 things are wrong');
  });
});

describe('constant, everything and unlessNull', () => {
  it('write a fixed JSON value, a fresh one each time', () => {
    const S = shape(fleet.vessel, () => ({
      a: constant('x'),
      b: constant({ c: [1, null, { d: true }] }),
      e: constant(null),
    }));
    expect(writtenRow(S, vesselRow)).to.deep.equal({ a: 'x', b: { c: [1, null, { d: true }] }, e: null });
    expect(declarationError(() => shape(fleet.vessel, () => ({ a: constant(1n as Any) })))).to.contain(
      'constant takes a JSON value',
    );
  });

  it('write every column that is not sealed', () => {
    const S = shape(fleet.operator, (o) => ({ ...everything(o), up: { ...everything(o.parent) } }));
    const row = { id: 1, name: 'A', phone: 'secret', parentId: null, parent: null };
    expect(writtenRow(S, row)).to.deep.equal({
      id: 1,
      name: 'A',
      parentId: null,
      up: { id: null, name: null, parentId: null },
    });
  });

  it('leave a member out where it is null, wherever it stands', () => {
    const Before = shape(fleet.vessel, (v) => ({ sign: unlessNull(v.callSign), id: v.id }));
    const Between = shape(fleet.vessel, (v) => ({ id: v.id, sign: unlessNull(v.callSign), name: v.name }));
    const Only = shape(fleet.vessel, (v) => ({
      sign: unlessNull(v.callSign),
      op: unlessNull(CallOperator(v.operator)),
    }));
    const all = [vesselRow, bareVesselRow];
    expect(written(list(Before), all)).to.deep.equal([{ sign: 'QA1', id: 1 }, { id: 2 }]);
    expect(written(list(Between), all)).to.deep.equal([
      { id: 1, sign: 'QA1', name: 'Anselma' },
      { id: 2, name: 'Anselma' },
    ]);
    expect(written(list(Only), all)).to.deep.equal([{ sign: 'QA1', op: { name: 'Lantern Bay' } }, {}]);
  });
});

const CallOperator = shape(fleet.operator, ({ name }) => ({ name }));

describe('recursive', () => {
  const quays = model(
    { quay: entity('quay', { id: integer().key(), parentId: integer().nullable() }) },
    { quay: { parts: toMany('quay', 'parentId'), parent: toOne('quay', 'parentId') } },
  );
  const leaf = (id: number, parts: unknown[] = [], parent: unknown = null) => ({
    id,
    parentId: null,
    parts,
    parent,
  });

  it('contains itself, so many levels deep', () => {
    const Tree = recursive(quays.quay, { depth: 2, name: 'Tree' }, (q, self) => ({
      id: q.id,
      parts: self(q.parts),
    }));
    expect(writtenRow(Tree, leaf(1, [leaf(2, [leaf(3)]), leaf(4)]))).to.deep.equal({
      id: 1,
      parts: [{ id: 2 }, { id: 4 }],
    });
    const Deep = recursive(quays.quay, { depth: 3 }, (q, self) => ({ id: q.id, up: { of: self(q.parent) } }));
    expect(writtenRow(Deep, leaf(1, [], leaf(2)))).to.deep.equal({
      id: 1,
      up: { of: { id: 2, up: { of: null } } },
    });
  });

  it('can be nested and spread like any other shape', () => {
    const Tree = recursive(quays.quay, { depth: 2 }, (q, self) => ({ id: q.id, parts: self(q.parts) }));
    const S = shape(quays.quay, (q) => ({ ...Tree(q), whole: Tree(q) }));
    const expected = { id: 1, parts: [{ id: 2 }] };
    expect(writtenRow(S, leaf(1, [leaf(2)]))).to.deep.equal({ ...expected, whole: expected });
  });

  it('refuses depths that are none, and its own row', () => {
    expect(declarationError(() => recursive(quays.quay, { depth: 0 }, (q) => ({ id: q.id })))).to.contain(
      'depth must be',
    );
    const own = declarationError(() =>
      recursive(quays.quay, { depth: 2 }, (q, self) => ({ again: self(q) })),
    );
    expect(own).to.contain('the shape itself cannot be nested over its own row');
    const wrong = declarationError(() =>
      recursive(fleet.vessel, { depth: 1 }, (v, self) => ({ x: self(v.operator as Any) })),
    );
    expect(wrong).to.contain('vessel is a shape over vessel, not over operator');
  });
});

describe('at, given and unseal', () => {
  const S = shape(fleet.vessel, (v) => ({
    id: v.id,
    name: at({ list: v.name, 'vessels.read': { full: v.name }, otherwise: constant('elsewhere') }),
    sign: at({ read: v.callSign }),
    phone: unseal(['harbourMaster', 'owner'], v.masterPhone),
    built: given(any(audience('agent'), asked('built')), v.builtYear),
    kind: given(
      all(
        not(audience('public')),
        holds([v.active], (active) => active),
      ),
      v.kind,
    ),
    old: deprecated(v.tonnage, { since: '2026-01-01', instead: 'tonnage' }),
  }));

  it('decide by the endpoint: its full name, its last part, otherwise', () => {
    expect(writtenRow(S, vesselRow, { endpoint: 'vessels.list', audience: 'public' })).to.deep.equal({
      id: 1,
      name: 'Anselma',
      old: '12345.50',
    });
    expect(writtenRow(S, vesselRow, { endpoint: 'vessels.read', audience: 'public' })).to.include({
      sign: 'QA1',
    });
    expect(writtenRow(S, vesselRow, { endpoint: 'vessels.read' })).to.deep.include({
      name: { full: 'Anselma' },
    });
    expect(writtenRow(S, vesselRow)).to.include({ name: 'elsewhere' });
    const Both = shape(fleet.vessel, (v) => ({ x: at({ read: v.name, 'vessels.read': v.kind }) }));
    expect(writtenRow(Both, vesselRow, { endpoint: 'vessels.read' })).to.deep.equal({ x: 'tanker' });
  });

  it('decide by the audience and by what was asked; no audience gets nothing special', () => {
    expect(writtenRow(S, vesselRow, { audience: 'harbourMaster' })).to.include({ phone: '+00 555 765 4321' });
    expect(writtenRow(S, vesselRow, { audience: 'owner' })).to.have.property('phone');
    expect(writtenRow(S, vesselRow, { audience: 'agent' }))
      .to.include({ built: 1990 })
      .and.not.have.property('phone');
    expect(writtenRow(S, vesselRow, { audience: 'public', asked: ['built'] })).to.include({ built: 1990 });
    expect(writtenRow(S, vesselRow)).to.not.have.any.keys('phone', 'built');
  });

  it('decide by the row what only the row can say', () => {
    expect(writtenRow(S, vesselRow, { audience: 'agent' })).to.include({ kind: 'tanker' });
    expect(writtenRow(S, { ...vesselRow, active: false }, { audience: 'agent' })).to.not.have.property(
      'kind',
    );
    expect(writtenRow(S, vesselRow, { audience: 'public' })).to.not.have.property('kind');
  });

  it('test rows with all, any and not, and stop where it is decided', () => {
    const R = shape(fleet.vessel, (v) => ({
      a: given(
        any(
          holds([v.active], (x) => x),
          holds([v.builtYear], (y) => y > 2000),
        ),
        v.id,
      ),
      b: given(not(holds([v.active], (x) => x)), v.id),
      c: given(
        all(
          holds([v.active], (x) => x),
          holds([v.operator.name], (n) => n !== null),
        ),
        { name: v.name },
      ),
    }));
    expect(writtenRow(R, vesselRow)).to.deep.equal({ a: 1, c: { name: 'Anselma' } });
    expect(writtenRow(R, { ...bareVesselRow, active: false })).to.deep.equal({ b: 2 });
    // The second test is not reached, so what it needs is not read.
    expect(writtenRow(R, { id: 1, active: true, name: 'A', operator: { name: 'B' } })).to.deep.equal({
      a: 1,
      c: { name: 'A' },
    });
  });

  it('do not hold for a missing row', () => {
    const Known = shape(fleet.operator, (o) => ({
      known: given(
        holds([o.id], () => true),
        o.name,
      ),
    }));
    const R = shape(fleet.vessel, (v) => ({ id: v.id, ...Known(v.operator) }));
    expect(writtenRow(R, vesselRow)).to.deep.equal({ id: 1, known: 'Lantern Bay' });
    expect(writtenRow(R, bareVesselRow)).to.deep.equal({ id: 2 });
  });

  it('say which member it was when a test fails or answers something else', () => {
    const throws = shape(fleet.vessel, (v) => ({
      a: given(
        holds([v.id], () => {
          throw new Error('x');
        }),
        v.id,
      ),
    }));
    expect(writeError(throws, vesselRow).message).to.equal(
      'vessel.a: expected a condition to be tested, got nothing: its function threw',
    );
    const odd = shape(fleet.vessel, (v) => ({ a: given(holds([v.id], (() => 1) as Any), v.id) }));
    expect(writeError(odd, vesselRow).message).to.equal(
      'vessel.a: expected a condition to be true or false, got 1',
    );
  });

  it('refuse sealed members, open ones that need no unsealing, and days that are none', () => {
    const message = declarationError(() =>
      shape(fleet.vessel, (v: Any) => ({
        a: given(audience('agent'), v.masterPhone),
        b: at({ read: { inner: v.masterPhone } }),
        c: unseal('agent', v.name),
        d: deprecated(v.name, { since: 'soon' }),
        e: given('agent' as Any, v.name),
        f: unlessNull(v.masterPhone),
        g: at({ list: v.name, read: v.masterPhone }),
        h: at({ otherwise: v.masterPhone }),
      })),
    );
    for (const name of ['a', 'f', 'g', 'h'])
      expect(message).to.contain(`vessel.${name}: this column is sealed (personal)`);
    expect(message).to.contain('vessel.b.inner: at read: this column is sealed (personal)');
    expect(message).to.contain('vessel.c: this value is not sealed');
    expect(message).to.contain('vessel.d: since and sunset are days');
    expect(message).to.contain('vessel.e: expected a condition');
  });
});
