import { expect } from 'chai';
import { didYouMean, nearest } from '../kit.js';
import { snakeCase } from './snake-case.js';

describe('names', () => {
  it('nearest finds slips of the finger, parts of names, and nothing far away', () => {
    expect(nearest('nmae', ['name', 'notes', 'id'])).to.deep.equal(['name']);
    expect(nearest('phone', ['masterPhone', 'id'])).to.deep.equal(['masterPhone']);
    expect(nearest('zzzz', ['name', 'notes'])).to.deep.equal([]);
    expect(nearest('', ['name'])).to.deep.equal([]);
    expect(didYouMean('lst', ['list', 'read'])).to.equal(' Did you mean "list"?');
    expect(didYouMean('x'.repeat(100_000), ['list'])).to.equal('');
  });

  it('snakeCase keeps abbreviations and digits together', () => {
    const names = ['id', 'masterPhone', 'lengthM', 'imoNumber2', 'URLPath', 'aB'];
    expect(names.map(snakeCase)).to.deep.equal([
      'id',
      'master_phone',
      'length_m',
      'imo_number2',
      'url_path',
      'a_b',
    ]);
  });
});
