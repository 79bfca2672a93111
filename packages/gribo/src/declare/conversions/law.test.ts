import { expect } from 'chai';
import fc from 'fast-check';
import { entity, input, integer, model, reader, serializerSource, shape } from '../../index.js';
import { runs } from '../../testing/cases.js';
import { CONVERSIONS, conversionsOf } from '../../testing/conversions.js';
import { looseWriter, written } from '../../testing/engines.js';
import { KINDS } from '../../testing/random-shapes.js';
import { standAlone } from '../../testing/stand-alone.js';

// biome-ignore lint/suspicious/noExplicitAny: laws hold for values of every type
type Any = any;

const shapesOver = (column: Any): Any[] => {
  const db = model({ thing: entity('thing', { id: integer().key(), value: column }) }, {}) as Any;
  return conversionsOf(column, 'all').map((convert) =>
    shape(db.thing, (t: Any) => ({ value: convert(t.value) }) as Any),
  );
};

/** Whether a conversion can show a value at all: a number may be too large for it. */
const isShown = (Shape: Any, row: object): boolean => {
  try {
    looseWriter(Shape, 'interpreted').json(row);
    return true;
  } catch {
    return false;
  }
};

const partial = (name: string, kind: string): boolean =>
  CONVERSIONS.get(name)?.rule.partial?.some((one) => one === kind) === true;

describe('the law of conversions', () => {
  it('holds for each row of the table: its file is called after it and says what it does', () => {
    for (const [name, { rule, apply }] of CONVERSIONS) {
      expect(rule.name, name).to.equal(name);
      expect(rule.apply, name).to.equal(apply);
      expect(rule.takes.length, name).to.be.above(0);
    }
    expect(CONVERSIONS.size).to.be.at.least(10);
  });

  for (const [kind, { make, value }] of Object.entries(KINDS)) {
    const shapes = shapesOver(make());
    if (shapes.length === 0) continue;

    it(`${kind}: engines and stand-alone serializers agree, and the way back leads to what is shown`, async () => {
      for (const Shape of shapes) {
        const { conversion } = Shape.plan.fields[0].node;
        const alone = await standAlone(serializerSource(Shape), {});
        const set = conversion.invert === null ? null : inputOf(Shape);
        fc.assert(
          fc.property(value, (any) => {
            const row = { id: 1, value: any };
            // Some conversions say themselves that they cannot show every value of a kind.
            if (partial(conversion.name, kind) && !isShown(Shape, row)) return;
            const shown = written(Shape, row) as { value: unknown };
            expect(JSON.parse(alone.json(row)), conversion.name).to.deep.equal(shown);
            if (set === null) return;
            const read = set.object(shown) as Any;
            // A value that the column itself would refuse, such as half a character, does not come back.
            if (read.ok) expect(written(Shape, { ...row, ...read.value })).to.deep.equal(shown);
          }),
          runs(100),
        );
      }
    });
  }
});

const inputOf = (Shape: Any): Any => {
  const { conversion, input: inner } = Shape.plan.fields[0].node;
  const db = model({ thing: entity('thing', { id: integer().key() }) }, {});
  const plain = input(db.thing, (t) => ({ value: t.id }));
  const field = {
    ...plain.plan.fields[0],
    node: { kind: 'set', column: inner.column, conversions: [conversion] },
  };
  return reader({ plan: { ...plain.plan, fields: [field] } } as Any);
};
