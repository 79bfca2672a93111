import { expect } from 'chai';
import { SAMPLED_KINDS } from '../sample/kinds.js';
import { shownAs } from './kinds.js';

describe('what JSON shows of each kind', () => {
  it('has words of its own', () => {
    const words = SAMPLED_KINDS.map(shownAs);
    expect(new Set(words)).to.have.lengthOf(SAMPLED_KINDS.length);
    expect(shownAs('bigint')).to.equal('a whole number as text');
    expect(shownAs('bytes')).to.equal('bytes as base64');
  });
});
