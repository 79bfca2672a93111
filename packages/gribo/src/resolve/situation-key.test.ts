import { expect } from 'chai';
import { situationKey } from './resolve.js';

describe('the key of a situation', () => {
  it('is another one for another situation, whatever things are called', () => {
    const names = [null, undefined, '', ' ', 'a', 'b', 'a b', ' a', 'b c', 'c', '1 a', '-', '[', '3 a b'];
    const situations = names.flatMap((audience) =>
      names.flatMap((endpoint) => [
        { audience, endpoint: endpoint ?? undefined },
        { audience, endpoint: endpoint ?? undefined, asked: ['a'] },
        { audience, endpoint: endpoint ?? undefined, fields: ['a b'] },
      ]),
    );
    const told = ({ audience, ...rest }: (typeof situations)[number]): string =>
      JSON.stringify([audience ?? null, rest]);
    const keys = new Map<string, string>();
    for (const situation of situations) {
      const key = situationKey(situation as never);
      expect(keys.get(key) ?? told(situation), key).to.equal(told(situation));
      keys.set(key, told(situation));
    }
    expect(situationKey({})).to.equal(situationKey({ audience: null }));
  });
});
