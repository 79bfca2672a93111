import { expect } from 'chai';
import fc from 'fast-check';
import {
  api,
  collection,
  compare,
  contractOf,
  decimal,
  entity,
  input,
  integer,
  jsonSchema,
  model,
  reader,
  samples,
  shape,
} from '../index.js';
import { ajvOf } from '../testing/ajv.js';
import { runs } from '../testing/cases.js';

const priced = (limits: { min?: string; max?: string }) => {
  const db = model({ fee: entity('fee', { id: integer().key(), due: decimal(8, 2, limits) }) }, {});
  const Fee = input(db.fee, ({ id, due }) => ({ id, due }), { name: 'Fee' });
  return { db, Fee };
};

const told = (limits: { min?: string; max?: string }, due: unknown): string => {
  const result = reader(priced(limits).Fee).object({ id: 1, due });
  return result.ok
    ? 'ok'
    : result.issues.map(({ pointer, code, message }) => `${pointer} ${code}: ${message}`).join();
};

describe('the bounds of a decimal', () => {
  it('are kept by readers, both included, whatever places were sent', () => {
    const limits = { min: '-0.50', max: '1250' };
    for (const due of ['-0.5', '-0.50', '0', '1249.99', '1250', '1250.00'])
      expect(told(limits, due), due).to.equal('ok');
    for (const due of ['-0.51', '-1', '1250.01', '99999'])
      expect(told(limits, due)).to.match(/^\/due range: .*a decimal from -0.50 to 1250 as a string/);
    expect(told({ min: '0' }, '-0.01')).to.contain('a decimal of 0 or more as a string');
  });

  it('are bounds: decimals with no more digits, the least first', () => {
    for (const [limits, words] of [
      [{ min: '0.505' }, 'its bound "0.505" must be a decimal as text'],
      [{ max: '1e3' }, 'its bound "1e3" must be'],
      [{ max: '1000000' }, 'its bound "1000000" must be'],
      [{ min: '2', max: '1.99' }, 'its min 2 is above its max 1.99'],
    ] as const)
      expect(() => priced(limits)).to.throw(words);
  });

  it('are in schemas as far as a pattern can say them: above zero, or not', () => {
    const validate = ajvOf().compile(jsonSchema(priced({ min: '0' }).Fee) as object);
    fc.assert(
      fc.property(
        fc.oneof(
          fc.constantFrom('-0', '-0.00', '0', '-0.01', '-7', '00', '-', '1.234', '123456.78', '1234567'),
          fc
            .tuple(fc.boolean(), fc.nat(9_999_999), fc.nat(999))
            .map(([isBelow, whole, part]) => `${isBelow ? '-' : ''}${whole}${part === 0 ? '' : `.${part}`}`),
        ),
        (due) => {
          expect(validate({ id: 1, due }), due).to.equal(told({ min: '0' }, due) === 'ok');
        },
      ),
      runs(2000),
    );
  });

  it('are in contracts, which tell where they are tighter', () => {
    const contract = (limits: { min?: string; max?: string }) => {
      const { db, Fee } = priced(limits);
      const Shown = shape(db.fee, ({ due }) => ({ due }), { name: 'Shown' });
      const fees = collection('/fees', db.fee, { create: { takes: Fee, returns: Shown } });
      return contractOf(api({ title: 'Fees', version: '1', endpoints: { fees } }));
    };
    const { differences } = compare(
      contract({ min: '0', max: '10' }),
      contract({ min: '0.50', max: '10.5' }),
    );
    const about = differences.map(({ code, message }) => `${code}: ${message}`);
    expect(about).to.include('limit-tightened: The least value is 0.50; it was 0.');
    expect(about).to.include('limit-loosened: The greatest value is 10.5; it was 10.');
  });

  it('hold for samples', () => {
    const { db } = priced({ min: '3', max: '4.5' });
    const { fee } = samples(db, { rows: 50 }) as { fee: readonly { due: string }[] };
    for (const { due } of fee) expect(Number(due)).to.be.within(3, 4.5);
  });
});
