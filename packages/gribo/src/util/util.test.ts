import { expect } from 'chai';
import { didYouMean, nearest } from '../kit.js';
import { fromBase64Url, toBase64Url } from './base64url.js';
import { setMember } from './set-member.js';
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

  it('nearest goes so far and no further: one letter, or two of five', () => {
    expect(nearest('ab', ['ac', 'xy'])).to.deep.equal(['ac']);
    expect(nearest('ab', ['xy'])).to.deep.equal([]);
    expect(nearest('abcd', ['abxy'])).to.deep.equal([]);
    expect(nearest('abcde', ['abcxy'])).to.deep.equal(['abcxy']);
    expect(nearest('abcde', ['abxyz'])).to.deep.equal([]);
    // A part of a name is near, but no nearer than a slip; a part of two letters is none.
    expect(nearest('phone', ['phones', 'masterPhone'])).to.deep.equal(['phones']);
    expect(nearest('masterPhone', ['phone'])).to.deep.equal(['phone']);
    expect(nearest('id', ['identity'])).to.deep.equal([]);
    expect(nearest('xid', ['oxidized'])).to.deep.equal([]);
    expect(nearest('oxidi', ['oxidized', 'notes'])).to.deep.equal(['oxidized']);
  });

  it('nearest gives the nearest ones, three at most, whatever their case', () => {
    expect(nearest('NAME', ['name', 'names'])).to.deep.equal(['name']);
    expect(nearest('cat', ['bat', 'hat', 'mat', 'rat'])).to.deep.equal(['bat', 'hat', 'mat']);
    expect(nearest('cat', ['bat', 'hat', 'mat', 'rat'], 1)).to.deep.equal(['bat']);
    expect(didYouMean('cat', ['bat', 'hat'])).to.equal(' Did you mean "bat" or "hat"?');
    expect(nearest('abcd', ['bacd', 'abXX'])).to.deep.equal(['bacd']);
    expect(nearest('ab', [])).to.deep.equal([]);
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

describe('base64url', () => {
  it('is what others make of it, and leads back (RFC 4648, section 5)', () => {
    const texts = ['', 'f', 'fo', 'foo', '>>>???', 'ÿþ~', '潮 "x"', '😀', '\u0000', 'a'.repeat(100)];
    for (const text of texts) {
      const encoded = Buffer.from(text).toString('base64url');
      expect(toBase64Url(text), text).to.equal(encoded);
      expect(fromBase64Url(encoded), text).to.equal(text);
    }
    expect(texts.map(toBase64Url).join('')).to.contain('-').and.contain('_');
    for (const wrong of ['a', 'a+b', 'a/b', 'YQ==', '_w'])
      expect(fromBase64Url(wrong), wrong).to.equal(undefined);
  });
});

describe('setMember', () => {
  it('sets any name, once and again, and never the prototype', () => {
    const made: Record<string, unknown> = {};
    for (const value of [1, 2]) {
      for (const name of ['a', '__proto__', 'constructor']) setMember(made, name, value);
      expect(JSON.stringify(made)).to.equal(`{"a":${value},"__proto__":${value},"constructor":${value}}`);
    }
    Reflect.set(made, '__proto__', 3);
    expect(Object.getPrototypeOf(made)).to.equal(Object.prototype);
    expect(Object.entries(made)[1]).to.deep.equal(['__proto__', 3]);
  });
});
