import { expect } from 'chai';
import { derive, input, json, shape, text } from '../../index.js';
import { declarationError } from '../../testing/engines.js';
import { fleet } from '../../testing/fleet.js';
import { stock } from '../../testing/stock.js';

// biome-ignore lint/suspicious/noExplicitAny: wrong declarations are the point
type Any = any;

const shaped = (declare: (row: Any, self: Any) => Any): string =>
  declarationError(() => shape(fleet.vessel, declare as Any, { name: 'Card' }));

describe('a choice between members', () => {
  it('is refused where a function chooses by a member of its row', () => {
    for (const declare of [
      (v: Any) => ({ label: v.callSign ?? v.name }),
      (v: Any) => ({ label: v.callSign || v.name }),
      (v: Any) => ({ label: v.callSign && v.name }),
      (v: Any) => ({ label: v.callSign ? v.kind : v.name }),
      ({ callSign: v, name }: Any) => ({ label: v ?? name }),
    ]) {
      expect(shaped(declare), String(declare)).to.match(
        /Card: v(\.callSign)?: members are objects here.*use orElse/,
      );
    }
    // biome-ignore lint/complexity/useArrowFunction: its text has another form
    const written = function (row: Any) {
      return { owner: row.operator.name ?? row.name };
    };
    expect(shaped(written)).to.contain('Card: row.operator.name: members are objects');
    expect(
      shaped(({ callSign, name, ...rest }: Any) => ({ label: callSign && name, id: rest.id })),
    ).to.contain('Card: callSign:');
    const wrong = () => input(fleet.vessel, (v: Any) => ({ name: v.callSign ?? v.name }), { name: 'New' });
    expect(declarationError(wrong)).to.contain('New: v.callSign: members are objects');
  });

  it('is none where something else is chosen by, or the name means something else', () => {
    const isShort = Object.keys(fleet).length > 100;
    const S = shape(fleet.vessel, (v) => ({
      // Not this: v.callSign ?? v.name
      id: v.id,
      'v.callSign ?? v.name': v.name,
      sign: derive([v.callSign], text(), (callSign) => callSign ?? '–'),
      again: derive([v.callSign], text(), (v) => v?.trim() ?? '–'),
      ...(isShort ? {} : { kind: v.kind }),
    }));
    expect(S.plan.fields.map(({ name }) => name)).to.deep.equal([
      'id',
      'v.callSign ?? v.name',
      'sign',
      'again',
      'kind',
    ]);
    const Same = shape(fleet.vessel, ({ callSign }) => ({
      sign: derive([callSign], text(), (callSign) => callSign ?? '–'),
    }));
    expect(Same.plan.fields).to.have.length(1);
    // biome-ignore lint/complexity/useArrowFunction: its text has another form
    const written = function (v: Any) {
      return { sign: derive([v.details] as Any, json<Any>(), (v: Any) => v.signs ?? []) };
    };
    expect(shape(stock.vessel, written as Any).plan.fields).to.have.length(1);
  });
});
