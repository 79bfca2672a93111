import { expect } from 'chai';
import {
  amending,
  asked,
  at,
  audience,
  constant,
  deprecated,
  given,
  input,
  inputFrom,
  optional,
  reader,
  shape,
  unlessNull,
} from '../../index.js';
import { declarationError } from '../../testing/engines.js';
import { fleet } from '../../testing/fleet.js';

// biome-ignore lint/suspicious/noExplicitAny: wrong declarations are the point
type Any = any;

describe('literals', () => {
  it('tell everything that is wrong in them, each with its path, wherever a group stands', () => {
    const bad = (v: Any): Any => ({ typo: v.nmae, deep: { five: 5, phone: v.masterPhone }, fine: v.name });
    const message = declarationError(() =>
      shape(fleet.vessel, (v: Any) => ({
        plain: bad(v),
        read: at({ read: bad(v), list: v.name }),
        some: given(audience('agent'), bad(v)),
        old: deprecated(bad(v), {}),
        maybe: unlessNull(given(asked('x'), bad(v)) as Any),
      })),
    );
    for (const [name, words] of Object.entries({
      plain: '',
      read: 'at read: ',
      some: '',
      old: '',
      maybe: '',
    })) {
      expect(message).to.contain(`vessel.${name}.typo: ${words}vessel has no column or link "nmae"`);
      expect(message).to.contain(`vessel.${name}.deep.five: ${words}expected a member, got 5`);
      expect(message).to.contain(`vessel.${name}.deep.phone: ${words}this column is sealed (personal)`);
    }
    expect(message).to.contain('15 things are wrong');
    const inputs = declarationError(() =>
      input(fleet.vessel, (v: Any) => ({
        group: { typo: v.nmae, five: 5 as Any, id: v.operator.name },
        maybe: optional({ typo: v.nmae, five: 5 as Any }),
      })),
    );
    for (const path of ['group.typo', 'group.five', 'group.id', 'maybe.typo', 'maybe.five']) {
      expect(inputs).to.contain(`vessel.${path}: `);
    }
    expect(inputs).to.contain('5 things are wrong');
  });

  it('of inputs are in their plans: those made from a shape can be amended, groups and all', () => {
    const Card = shape(fleet.vessel, (v) => ({
      name: v.name,
      more: { sign: v.callSign, kind: v.kind },
      is: constant(1),
    }));
    const From = inputFrom(Card);
    const Same = amending(From, (members) => members);
    const names = (fields: readonly Any[]): unknown =>
      fields.map(({ name, node }) => (node.fields === undefined ? name : { [name]: names(node.fields) }));
    expect(names(Same.plan.fields)).to.deep.equal(names(From.plan.fields));
    expect(reader(Same).object({ more: { sign: null } })).to.deep.equal({
      ok: true,
      value: { callSign: null },
    });
    const Some = amending(From, ({ more: { sign }, ...rest }: Any) => ({ ...rest, more: { sign } }));
    expect(Some.plan.fixed.map(({ member }) => member)).to.deep.equal(['more.kind']);
    const Again = amending(Some, (members: Any) => members);
    expect(names(Again.plan.fields)).to.deep.equal(names(Some.plan.fields));
  });

  it('of inputs keep what may be left out, and what stands in for it', () => {
    const Create = input(fleet.vessel, (v) => ({ name: v.name, more: optional({ sign: v.callSign }) }));
    const Edit = amending(Create, ({ more, ...rest }) => ({ ...rest, again: more }));
    expect(Edit.plan.fields.map(({ name, presence }) => [name, presence.kind])).to.deep.equal([
      ['name', 'required'],
      ['again', 'optional'],
    ]);
  });
});
