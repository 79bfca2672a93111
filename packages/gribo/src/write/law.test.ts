import { expect } from 'chai';
import fc from 'fast-check';
import { entity, integer, list, misfitsIn, model, shape, text } from '../index.js';
import { runs } from '../testing/cases.js';
import { ENGINES, KNOWN, looseWriter } from '../testing/engines.js';
import { cases, modelOf, shapesOf } from '../testing/random-shapes.js';

describe('the law of writers', () => {
  it('json is JSON.stringify(object), bytes is its UTF-8, and engines agree, for every plan and row', () => {
    fc.assert(
      fc.property(cases, ({ columnsOf, chosen, rows }) => {
        const body = list(shapesOf(modelOf(columnsOf), columnsOf, chosen));
        const texts = ENGINES.map((engine) => {
          const write = looseWriter(body, engine);
          const text = write.json(rows);
          expect(text).to.equal(JSON.stringify(write.object(rows)));
          expect(Buffer.from(write.bytes(rows)).equals(Buffer.from(text))).to.equal(true);
          return text;
        });
        expect(texts[0]).to.equal(texts[1]);
      }),
      runs(300),
    );
  });

  it('engines refuse the same rows with the same words', () => {
    const spoiled = cases.chain((one) =>
      fc.record({
        one: fc.constant(one),
        column: fc.nat(9),
        value: fc.constantFrom<unknown>(
          undefined,
          null,
          Number.NaN,
          'x',
          1.5,
          7n,
          new Date(Number.NaN),
          {},
          [],
        ),
      }),
    );
    fc.assert(
      fc.property(spoiled, ({ one, column, value }) => {
        const [row] = one.rows;
        if (row === undefined) return;
        const names = Object.keys(row);
        const bad = { ...row, [names[column % names.length] ?? 'id']: value };
        const body = list(shapesOf(modelOf(one.columnsOf), one.columnsOf, one.chosen));
        const outcomes = ENGINES.flatMap((engine) => {
          const write = looseWriter(body, engine);
          return [() => write.json([bad]), () => JSON.stringify(write.object([bad]))].map(outcomeOf);
        });
        expect(new Set(outcomes).size, outcomes.join('\n')).to.equal(1);
        // All that is wrong is found, and what stops a writer is the first of it.
        const [first] = misfitsIn(body, [bad], {}, KNOWN);
        expect(outcomes[0]).to.satisfy((told: string) =>
          first === undefined ? told.startsWith('[') : told.includes(first.message),
        );
      }),
      runs(300),
    );
  });

  it('holds where the room for a row is short, wherever in it the row begins', async () => {
    const names = Array.from({ length: 40 }, (_, index) => `note${index}`);
    const columns = Object.fromEntries(names.map((name) => [name, text()]));
    const { noted } = model({ noted: entity('noted', { id: integer().key(), ...columns }) }, {});
    const body = list(shape(noted, ({ id: _id, ...notes }) => notes as never));
    const write = looseWriter(body, 'generated');
    const empty = Object.fromEntries(names.map((name) => [name, '']));
    const rows: object[] = Array.from({ length: 200 }, () => empty);
    for (let length = 0; length < 500; length += 7) {
      rows[0] = { ...empty, note0: 'x'.repeat(length) };
      // Each stream has memory of its own, which is too small for all of it.
      expect(await new Response(write.stream(rows)).text()).to.equal(JSON.stringify(write.object(rows)));
    }
  });

  it('a stream gives the same document as json', async () => {
    await fc.assert(
      fc.asyncProperty(cases, async ({ columnsOf, chosen, rows }) => {
        const body = list(shapesOf(modelOf(columnsOf), columnsOf, chosen));
        for (const engine of ENGINES) {
          const write = looseWriter(body, engine);
          expect(await new Response(write.stream(rows)).text()).to.equal(
            new TextDecoder().decode(write.bytes(rows)),
          );
        }
      }),
      runs(60),
    );
  });
});

const outcomeOf = (run: () => string): string => {
  try {
    return run();
  } catch (error) {
    return (error as Error).message;
  }
};
