import { expect } from 'chai';
import {
  api,
  collection,
  compare,
  contractOf,
  input,
  jsonSchema,
  optional,
  reader,
  shape,
} from '../index.js';
import { ENGINES } from '../testing/engines.js';
import { stock } from '../testing/stock.js';

const VesselIn = input(stock.vessel, ({ name, kind, builtYear }) => ({ name, kind, builtYear }), {
  name: 'VesselIn',
});
const fleet = (limits?: { min?: number; max?: number }) =>
  input(stock.operator, (o) => ({ name: o.name, vessels: optional(VesselIn(o.vessels, limits)) }), {
    name: 'OperatorIn',
  });
const one = { name: 'A', kind: 'bulk', builtYear: 1990 };
const bodyOf = (many: number) => ({ name: 'X', vessels: Array.from({ length: many }, () => one) });

describe('how many rows a nested input takes', () => {
  it('is told at the list, by every engine', () => {
    for (const engine of ENGINES) {
      const read = reader(fleet({ min: 1, max: 2 }), {}, { engine });
      for (const many of [1, 2]) expect(read.object(bodyOf(many)).ok, `${engine} ${many}`).to.equal(true);
      for (const many of [0, 3]) {
        const got = read.object(bodyOf(many));
        expect(got.ok ? [] : got.issues, `${engine} ${many}`).to.deep.equal([
          {
            pointer: '/vessels',
            code: 'length',
            wanted: 'array',
            limits: { min: 1, max: 2 },
            message: 'Expected an array with a number of values from 1 to 2, got an array.',
          },
        ]);
      }
    }
  });

  it('is in schemas, and its changes are breaking where they are tighter', () => {
    const schema = JSON.stringify(jsonSchema(fleet({ min: 1, max: 2 })));
    expect(schema).to.contain('"minItems":1,"maxItems":2');
    const Operator = shape(stock.operator, ({ id }) => ({ id }));
    const contract = (limits?: { min?: number; max?: number }) =>
      contractOf(
        api({
          title: 'Fleet',
          version: '1.0.0',
          endpoints: {
            operators: collection('/operators', stock.operator, {
              read: Operator,
              create: { takes: fleet(limits), returns: Operator },
            }),
          },
        }),
      );
    const changes = (before?: { min?: number; max?: number }, after?: { min?: number; max?: number }) =>
      compare(contract(before), contract(after)).differences.map(({ code, effect, message }) => [
        code,
        effect,
        message,
      ]);
    expect(changes({ max: 5 }, { min: 1, max: 2 })).to.deep.equal([
      ['limit-tightened', 'breaking', 'The greatest number of rows is 2; it was 5.'],
      ['limit-tightened', 'breaking', 'The least number of rows is 1; there was none.'],
    ]);
    expect(changes({ min: 1, max: 2 }, undefined).map(([code, effect]) => `${code} ${effect}`)).to.deep.equal(
      ['limit-loosened safe', 'limit-loosened safe'],
    );
  });

  it('is a whole number, of lists only', () => {
    const message = (make: () => unknown): string => {
      try {
        make();
        return '';
      } catch (error) {
        return (error as Error).message;
      }
    };
    expect(message(() => fleet({ min: 3, max: 2 }))).to.contain('its min 3 is above its max 2');
    expect(message(() => fleet({ max: 1.5 }))).to.contain('min and max are whole numbers of rows');
    const OperatorIn = input(stock.operator, ({ name }) => ({ name }));
    const toOne = () => input(stock.vessel, (v) => ({ operator: OperatorIn(v.operator, { max: 2 }) }));
    expect(message(toOne)).to.contain('operator leads to one row: leave min and max out');
  });
});
