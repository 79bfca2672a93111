import { expect } from 'chai';
import { SourceWriter } from '../../codegen/source-writer.js';
import { audience, entity, given, integer, model, serializerSource, shape } from '../../index.js';
import { db } from '../../testing/crates.js';
import { declarationError } from '../../testing/engines.js';
import { literalSource } from './literal-source.js';

describe('serializerSource', () => {
  it('lists the members whose functions no module exports', () => {
    const Named = shape(db.crate, (c) => ({ id: c.id, by: given(audience('office'), c.made), even: c.id }));
    expect(serializerSource(Named)).to.match(/^import\{standAlone/);
    const via = model(
      {
        crate: entity('crate', {
          id: integer()
            .key()
            .via((row) => row['key']),
        }),
      },
      {},
    );
    const Bad = shape(via.crate, (c) => ({ id: c.id }), { name: 'Bad' });
    expect(declarationError(() => serializerSource(Bad))).to.contain(
      'Bad.id: it calls a function that no module exports',
    );
  });

  it('writes plain values as they are, whatever is in them', () => {
    const value = {
      ...JSON.parse('{"__proto__": {"x": 1}, "a\\"b": [null, true, -0.5]}'),
      when: new Date(5),
      how: /a"b/i,
      raw: Uint8Array.of(1, 2),
      big: 9n,
      none: undefined,
    };
    const source = literalSource(new SourceWriter(), value, () => 'null');
    expect(new Function(`return ${source}`)()).to.deep.equal(value);
    expect(Object.keys(new Function(`return ${source}`)())).to.deep.equal(Object.keys(value));
  });

  it('takes names from outside as text only', () => {
    const evil = '"];globalThis.hit=1;//';
    const Evil = shape(db.crate, (c) => ({ [evil]: c.id, id: c.id }) as { id: typeof c.id }, { name: 'E' });
    expect(serializerSource(Evil)).to.contain(JSON.stringify(evil)).and.not.contain(`"${evil}`);
  });
});
