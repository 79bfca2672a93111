import { expect } from 'chai';
import { stringify } from 'csv-stringify/sync';
import fc from 'fast-check';
import { csvLines, jsonLines, list, writer } from '../../index.js';
import { runs } from '../../testing/cases.js';
import { ENGINES, KNOWN } from '../../testing/engines.js';
import { cases, modelOf, shapesOf } from '../../testing/random-shapes.js';
import { flatColumns, flatValue } from './flat-columns.js';

const GUARDS = [false, true] as const;
const DIGITS = new Set(['decimal', 'bigint']);

const LINE_END = /[\r\n]/;

/** One cell by a well-known package; what is only digits is none that a spreadsheet runs. */
const cellBy = (value: unknown, isGuarded: boolean): string => {
  const ready = typeof value === 'object' && value !== null ? JSON.stringify(value) : value;
  return stringify([[ready]], {
    eof: false,
    cast: {
      boolean: String,
      string: (text) =>
        text === '' ? { value: '', quoted_empty: true } : { value: text, quoted: LINE_END.test(text) },
    },
    escape_formulas: isGuarded,
  });
};

/** Lines of one of the two kinds, from any rows. */
interface Lines {
  bytes(rows: unknown): Uint8Array;
  stream(rows: unknown): ReadableStream<Uint8Array>;
}

const linesOf = (make: typeof csvLines | typeof jsonLines, body: never, options: object): Lines => {
  const lines = make(body, {}, options);
  return {
    bytes: (rows) => lines.bytes(rows as never, KNOWN),
    stream: (rows) => lines.stream(rows as never, KNOWN),
  };
};

const textOf = (bytes: Uint8Array): string => Buffer.from(bytes).toString('utf8');

describe('the law of lines', () => {
  it('CSV is what a well-known package makes of the JSON-ready rows, whatever the engine', () => {
    fc.assert(
      fc.property(cases, ({ columnsOf, chosen, rows }) => {
        const body = list(shapesOf(modelOf(columnsOf), columnsOf, chosen));
        const { plan, object } = writer(body);
        const columns = flatColumns(plan.content);
        const ready = object(rows as never, KNOWN) as readonly unknown[];
        for (const guardFormulas of GUARDS) {
          const wanted = [
            columns.map(({ name }) => cellBy(name, guardFormulas)),
            ...ready.map((row) =>
              columns.map(({ path, type }) =>
                cellBy(flatValue(row, path), guardFormulas && !DIGITS.has(type?.kind ?? '')),
              ),
            ),
          ];
          // As UTF-8 has it: half a character is none.
          const text = textOf(Buffer.from(wanted.map((cells) => `${cells.join(',')}\r\n`).join('')));
          for (const engine of ENGINES) {
            const lines = linesOf(csvLines, body as never, { engine, guardFormulas });
            expect(textOf(lines.bytes(rows)), engine).to.equal(text);
          }
        }
      }),
      runs(150),
    );
  });

  it('lines of JSON are the texts of the rows, and streams are the same bytes', async () => {
    await fc.assert(
      fc.asyncProperty(cases, async ({ columnsOf, chosen, rows }) => {
        const body = list(shapesOf(modelOf(columnsOf), columnsOf, chosen));
        const ready = writer(body).object(rows as never, KNOWN) as readonly unknown[];
        const text = ready.map((row) => `${JSON.stringify(row)}\n`).join('');
        for (const engine of ENGINES) {
          const json = linesOf(jsonLines, body as never, { engine });
          expect(textOf(json.bytes(rows)), engine).to.equal(text);
          for (const lines of [json, linesOf(csvLines, body as never, { engine })])
            expect(await new Response(lines.stream(rows)).text()).to.equal(textOf(lines.bytes(rows)));
        }
      }),
      runs(60),
    );
  });

  it('refuses the rows that the writer of JSON refuses, with the same words', () => {
    const spoiled = cases.chain((one) =>
      fc.record({
        one: fc.constant(one),
        column: fc.nat(9),
        value: fc.constantFrom<unknown>(undefined, null, Number.NaN, 'x', 1.5, 7n, {}, []),
      }),
    );
    fc.assert(
      fc.property(spoiled, ({ one, column, value }) => {
        const [row] = one.rows;
        if (row === undefined) return;
        const names = Object.keys(row);
        const bad = [{ ...row, [names[column % names.length] ?? 'id']: value }];
        const body = list(shapesOf(modelOf(one.columnsOf), one.columnsOf, one.chosen));
        const told = [
          () => writer(body).bytes(bad as never, KNOWN),
          ...ENGINES.flatMap((engine) => [
            () => linesOf(csvLines, body as never, { engine }).bytes(bad),
            () => linesOf(jsonLines, body as never, { engine }).bytes(bad),
          ]),
        ].map(outcomeOf);
        expect(new Set(told).size, told.join('\n')).to.equal(1);
      }),
      runs(150),
    );
  });
});

const outcomeOf = (run: () => unknown): string => {
  try {
    run();
    return 'written';
  } catch (error) {
    return (error as Error).message;
  }
};
