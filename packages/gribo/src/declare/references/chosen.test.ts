import { expect } from 'chai';
import { derive, input, shape, text } from '../../index.js';
import { declarationError } from '../../testing/engines.js';
import { fleet } from '../../testing/fleet.js';
import { chosenBy } from './chosen.js';

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
  });

  // As it stands in a program: what runs the tests may have written functions anew.
  const chosenIn = (text: string): readonly string[] =>
    chosenBy('Card', new Function(`return ${text}`)()).map(({ message }) => message.split(': ')[0] ?? '');

  it('is looked for in the function’s own text', () => {
    const found: readonly (readonly [text: string, ...members: string[]])[] = [
      [
        '(v) => ({ a: v.x ?? v.y, b: v.x || v.z, c: v.far.x && v.y, d: v . q ? v.x : v.y })',
        'v.x',
        'v.far.x',
        'v.q',
      ],
      ['v => ({ a: v.x?.y, b: v.x })'],
      ['($v) => ({ a: $v.x ?? 1, b: v.x ?? 1, c: w.$v.x ?? 1 })', '$v.x'],
      ['function (v) { return { a: v.x ?? 1 } }', 'v.x'],
      ['function named(v, self) { return { a: v.x ?? 1 } }', 'v.x'],
      ['(v, self) => ({ a: v.x ?? 1, b: self(v.y) })', 'v.x'],
      ['(v) => ({ a: f([v.x], (v) => v.y ?? 1) })'],
      ['function (v) { return { a: f([v.x], (v) => v.y ?? 1) } }'],
      ['(v) => ({ a: f([v.x], (w, v) => v.y ?? 1) })'],
      ['(v) => ({ a: f([v.x], (w) => w ?? 1), b: v.z ?? 1 })', 'v.z'],
      ['({ x, y: far, ...rest }) => ({ a: far && x, b: x ?? 1, c: rest.x ?? 1, d: y ?? 1 })', 'x', 'far'],
      ['({ x }) => ({ a: f([x], (x) => x ?? 1) })'],
      ["(v) => ({ 'v.x ?? 1': v.y, /* v.x ?? 1 */ b: v.y })"],
      ['() => ({ a: v.x ?? 1 })'],
    ];
    for (const [text, ...members] of found) expect(chosenIn(text), text).to.deep.equal(members);
  });
});
