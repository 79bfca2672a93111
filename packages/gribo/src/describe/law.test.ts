import { expect } from 'chai';
import fc from 'fast-check';
import { jsonSchema, list, resolve, serializerSource } from '../index.js';
import { ajvOf } from '../testing/ajv.js';
import { runs } from '../testing/cases.js';
import { KNOWN, looseWriter } from '../testing/engines.js';
import { parsed } from '../testing/parsed.js';
import { cases, modelOf, shapesOf } from '../testing/random-shapes.js';
import { standAlone } from '../testing/stand-alone.js';
import { walkFunctions } from '../write/modules/walk-functions.js';

describe('the law of descriptions', () => {
  it('what is written is valid by its closed schema, for every plan and row', () => {
    fc.assert(
      fc.property(cases, ({ columnsOf, chosen, rows }) => {
        const body = list(shapesOf(modelOf(columnsOf), columnsOf, chosen));
        // ajv cannot look at a property of this name.
        const schema = parsed(
          JSON.stringify(jsonSchema(body, {}, { closed: true })).replaceAll('__proto__', '_proto_'),
        ) as object;
        const validate = ajvOf().compile(schema);
        const sent = parsed(looseWriter(body, 'generated').json(rows).replaceAll('__proto__', '_proto_'));
        expect(validate(sent), JSON.stringify([validate.errors, sent, schema])).to.equal(true);
      }),
      runs(60),
    );
  });

  it('a stand-alone serializer writes what the library writes, for every plan and row', async () => {
    await fc.assert(
      fc.asyncProperty(cases, async ({ columnsOf, chosen, rows }) => {
        const body = list(shapesOf(modelOf(columnsOf), columnsOf, chosen));
        const called = new Set<unknown>();
        walkFunctions(resolve(body).shape, { user: (one) => called.add(one), conversion: () => undefined });
        const functions = Object.fromEntries([...called].map((one, i) => [`one${i}`, one]));
        const alone = await standAlone(serializerSource(body, {}, { functions }), functions);
        const text = looseWriter(body, 'interpreted').json(rows);
        expect(alone.json(rows, KNOWN)).to.equal(text);
        expect(JSON.stringify(alone.object(rows, KNOWN))).to.equal(text);
        expect(Buffer.from(alone.bytes(rows, KNOWN)).equals(Buffer.from(text))).to.equal(true);
      }),
      runs(150),
    );
  });
});
