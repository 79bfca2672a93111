import { expect } from 'chai';
import {
  amending,
  assigned,
  asText,
  count,
  input,
  inputFrom,
  lower,
  optional,
  preset,
  reader,
  shape,
  unlessNull,
} from '../index.js';
import { declarationError } from '../testing/engines.js';
import { type Any, db, EditVessel, good, issues, NewCall, NewVessel, read } from '../testing/read-bodies.js';

describe('input and reader', () => {
  it('read a body to a change under the entity’s own names, groups flattened', () => {
    expect(read(good)).to.deep.equal({
      imoNumber: '9100274',
      name: 'Anselma',
      kind: 'bulk',
      operatorId: 3,
      builtYear: 2000,
    });
    const all = {
      ...good,
      sign: null,
      built: 1999,
      more: { flag: 'QM' },
      calls: [{ eta: '2026-03-01T06:30:00+02:00', note: 'x' }, { eta: '2026-03-02T00:00:00Z' }],
    };
    expect(read(all)).to.deep.equal({
      imoNumber: '9100274',
      name: 'Anselma',
      callSign: null,
      kind: 'bulk',
      operatorId: 3,
      builtYear: 1999,
      flag: 'QM',
      portCalls: [
        { eta: new Date('2026-03-01T04:30:00Z'), note: 'x' },
        { eta: new Date('2026-03-02T00:00:00Z') },
      ],
    });
  });

  it('tell every issue, in the order of the document, with its pointer', () => {
    const body = {
      kind: 'raft',
      nmae: 'x',
      operator: { id: 'x', 'a/b~c': 1 },
      imo: '12',
      built: 1700,
      name: '',
      calls: [{ eta: 'soon' }, 5],
    };
    expect(issues(body)).to.deep.equal([
      '/kind choice: Expected one of bulk, tanker, got "raft".',
      '/nmae unknown: There is no such member. Did you mean "name"?',
      '/operator/id type: Expected a whole number, got "x".',
      '/operator/a~1b~0c unknown: There is no such member.',
      '/imo pattern: Expected a string that matches ^\\d{7}$, got "12".',
      '/built range: Expected a whole number from 1850 to 2100, got 1700.',
      '/name length: Expected a string with a length from 1 to 10, got "".',
      '/calls/0/eta format: Expected a date and time with its offset, such as 2026-03-01T06:30:00Z, got "soon".',
      '/calls/1 type: Expected an object, got 5.',
    ]);
    expect(issues({})).to.deep.equal([
      '/imo required: This member is required: a string.',
      '/name required: This member is required: a string.',
      '/kind required: This member is required: one of bulk, tanker.',
      '/operator required: This member is required: an object.',
    ]);
    expect(issues([])).to.deep.equal([' type: Expected an object, got an array.']);
    expect(issues({ ...good, operator: 5, calls: {} })).to.deep.equal([
      '/operator type: Expected an object, got 5.',
      '/calls type: Expected an array, got an object.',
    ]);
  });

  it('take null where the column may be null, and for a group where all its columns may', () => {
    expect(read({ ...good, operator: null, more: null })).to.include({ operatorId: null, flag: null });
    const Group = input(db.vessel, (v) => ({ group: { name: v.name, sign: v.callSign } }));
    expect(issues({ group: null }, {}, Group)).to.deep.equal(['/group type: Expected an object, got null.']);
    const Nested = input(db.vessel, (v) => ({ group: { sign: v.callSign, more: { flag: v.flag } } }));
    expect(issues({ group: null }, {}, Nested)).to.deep.equal(['/group type: Expected an object, got null.']);
    expect(issues({ ...good, name: null })).to.deep.equal([
      '/name null: This must not be null: it always has a value.',
    ]);
    expect(issues({ ...good, name: null }, { nulls: 'absent' })).to.deep.equal([
      '/name required: This member is required: a string.',
    ]);
    expect(read({ ...good, built: null }, { nulls: 'absent' })).to.include({ builtYear: 2000 });
  });

  it('take an empty object, and nothing else, where there are no members', () => {
    const Nothing = input(db.vessel, () => ({}));
    const reading = reader(Nothing);
    expect([reading.engine, reading.json('{}')]).to.deep.equal(['generated', { ok: true, value: {} }]);
    expect(issues({ name: 'x' }, {}, Nothing)).to.deep.equal(['/name unknown: There is no such member.']);
  });

  it('waive a group, and groups in it, where each of their members may be left out', () => {
    const Waived = input(db.vessel, (v) => ({
      a: { sign: optional(v.callSign), b: { kind: preset(v.kind, 'bulk') } },
    }));
    expect(read({}, {}, Waived)).to.deep.equal({ kind: 'bulk' });
    const Needed = input(db.vessel, (v) => ({ a: { sign: optional(v.callSign), b: { kind: v.kind } } }));
    expect(issues({}, {}, Needed)).to.deep.equal(['/a required: This member is required: an object.']);
    expect(issues({ a: {} }, {}, Needed)).to.deep.equal([
      '/a/b required: This member is required: an object.',
    ]);
  });

  it('follow their policies', () => {
    expect(read({ ...good, stranger: 1 }, { unknown: 'ignore' })).to.not.have.property('stranger');
    expect(read({ ...good, kind: 1 }, { choices: 'nameOrOrdinal' })).to.include({ kind: 'tanker' });
    expect(issues({ ...good, kind: 2 }, { choices: 'nameOrOrdinal' })).to.have.length(1);
    expect(issues({ ...good, kind: 1 })).to.deep.equal(['/kind type: Expected one of bulk, tanker, got 1.']);
    expect(read({ ...good, built: '1999' }, { text: 'lax' })).to.include({ builtYear: 1999 });
    expect(issues({ ...good, built: '1999' })).to.have.length(1);
    const french = reader(NewVessel, { say: ({ code }) => `Problème: ${code}` }).object({
      ...good,
      built: 1,
    });
    expect(french.ok ? [] : french.issues).to.deep.equal([
      {
        pointer: '/built',
        code: 'range',
        wanted: 'integer',
        limits: { min: 1850, max: 2100 },
        message: 'Problème: range',
      },
    ]);
  });

  it('stop at a hundred issues, and say so', () => {
    const many = issues({
      ...good,
      ...Object.fromEntries(Array.from({ length: 150 }, (_, i) => [`x${i}`, 1])),
    });
    expect(many).to.have.length(101);
    expect(many.at(-1)).to.equal(' limit: There are more than 100 issues.');
  });

  it('amend: what is absent stays unchanged, null clears, and what is set once is fixed', () => {
    expect(read({}, {}, EditVessel)).to.deep.equal({});
    expect(read({ name: 'B', sign: null, operator: {} }, {}, EditVessel)).to.deep.equal({
      name: 'B',
      callSign: null,
    });
    expect(issues({ imo: '9100274', name: null }, {}, EditVessel)).to.deep.equal([
      '/imo fixed: This is set once, when the vessel is created.',
      '/name null: This must not be null: it always has a value.',
    ]);
    const Nested = amending(NewVessel, ({ operator: _operator, ...rest }) => ({ ...rest, operator: {} }));
    expect(issues({ operator: { id: 1 } }, {}, Nested)).to.deep.equal([
      '/operator/id fixed: This is set once, when the vessel is created.',
    ]);
  });

  it('refuse declarations that set nothing, or what is not the body’s to set', () => {
    const message = declarationError(() =>
      input(db.vessel, (v: Any) => ({
        id: v.id,
        at: { createdAt: v.createdAt },
        owner: v.operator.name,
        low: lower(v.name) as Any,
        twice: v.kind,
        again: optional(v.kind),
        typo: v.nmae,
        row: v.operator,
        five: 5 as Any,
        wrong: NewCall(v.operator),
        alone: NewCall(v),
        column: NewCall(v.name),
      })),
    );
    expect(message.split('\n')).to.deep.equal([
      'input "vessel": 11 things are wrong',
      '  vessel.id: id is made by the database: leave it out, or say assigned(v.id)',
      '  vessel.at.createdAt: createdAt is made by the database: leave it out, or say assigned(v.createdAt)',
      "  vessel.owner: name is a column of another row: nest an input over the link, or set this row's own key column",
      '  vessel.low: lower has no way back, so an input cannot take it',
      '  vessel.typo: vessel has no column or link "nmae". Did you mean "name"?',
      '  vessel.row: this is a row or rows: nest an input over the link, NewItem(v.items)',
      '  vessel.five: expected a column, a group or a nested input, got 5',
      '  vessel.wrong: NewCall is an input over portCall, but the link leads to operator',
      '  vessel.alone: an input is nested over a link of the row: NewItem(v.items)',
      '  vessel.column: an input is nested over a link of the row: NewItem(v.items)',
      '  vessel.again: sets kind, as vessel.twice does',
    ]);
    const Assigned = input(db.vessel, (v) => ({ id: assigned(v.id) }));
    expect(read({ id: 7 }, {}, Assigned)).to.deep.equal({ id: 7 });
    const Sealed = input(db.operator, (o) => ({ name: o.name, phone: o.phone }));
    expect(read({ name: 'A', phone: '+00' }, {}, Sealed)).to.deep.equal({ name: 'A', phone: '+00' });
  });

  it('refuse presets that would be refused if they were sent', () => {
    const message = declarationError(() =>
      input(
        db.vessel,
        (v: Any) => ({
          name: preset(v.name, 'Anselma'),
          kind: preset(v.kind, 'raft'),
          of: { built: preset(v.builtYear, 'new') },
          calls: preset(NewCall(v.portCalls), [{ eta: 'soon' }]),
        }),
        { name: 'New' },
      ),
    );
    expect(message.split('\n').map((line) => line.split(': Expected')[0])).to.deep.equal([
      'input "New": 3 things are wrong',
      '  New.kind: its preset would be refused',
      '  New.of.built: its preset would be refused',
      '  New.calls: its preset would be refused',
    ]);
    const Right = input(db.vessel, (v) => ({ name: v.name, of: preset({ kind: v.kind }, { kind: 'bulk' }) }));
    expect(read({ name: 'A' }, {}, Right)).to.deep.equal({ name: 'A', kind: 'bulk' });
  });

  it('are made from a shape: its members turned round where they can be', () => {
    const Vessel = shape(
      db.vessel,
      (v) => ({
        id: v.id,
        title: v.name,
        size: { built: asText(v.builtYear), loud: lower(v.kind) },
        owner: v.operator.name,
        sign: unlessNull(v.callSign),
        calls: count(v.portCalls),
      }),
      { name: 'Vessel' },
    );
    const { leftOut, ...made } = inputFrom(Vessel, { drop: ['sign'] });
    expect(read({ title: 'A', size: { built: '1999' } }, {}, made)).to.deep.equal({
      name: 'A',
      builtYear: 1999,
    });
    expect(issues({ size: {} }, {}, made).map((issue) => issue.split(':')[0])).to.deep.equal([
      '/size/built required',
      '/title required',
    ]);
    expect(leftOut.map(({ member, why }) => `${member}: ${why}`)).to.deep.equal([
      'id: the database makes it',
      'size.loud: lower has no way back',
      'owner: it comes from behind the link operator',
      'calls: it is computed',
    ]);
    expect(declarationError(() => inputFrom(Vessel, { drop: ['titel'] }))).to.contain(
      'no member "titel" to drop. Did you mean "title"?',
    );
    expect(declarationError(() => inputFrom(shape(db.vessel, ({ id }) => ({ id }))))).to.contain(
      'no member of the shape can come in',
    );
  });

  it('nest a to-one link', () => {
    const NewOperator = input(db.operator, (o) => ({ name: o.name }));
    const WithOperator = input(db.vessel, (v) => ({ name: v.name, owner: NewOperator(v.operator) }));
    expect(read({ name: 'A', owner: { name: 'B' } }, {}, WithOperator)).to.deep.equal({
      name: 'A',
      operator: { name: 'B' },
    });
    expect(issues({ name: 'A', owner: null }, {}, WithOperator)).to.deep.equal([
      '/owner type: Expected an object, got null.',
    ]);
  });
});
