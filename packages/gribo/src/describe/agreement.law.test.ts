import { expect } from 'chai';
import fc from 'fast-check';
import { type Issue, jsonSchema, reader } from '../index.js';
import { ajvOf } from '../testing/ajv.js';
import { cases, seed } from '../testing/cases.js';
import { inputCases } from '../testing/random-inputs.js';

/** How many bodies are tried. */
const BODIES = cases(6000);
const BODIES_OF_EACH = 200;

/** What a reader refuses and a schema cannot say: the list of docs/describing.md. */
const CLASSES: Readonly<Record<string, (issue: Issue, body: string) => boolean>> = {
  'half a character': ({ code, wanted }, body) =>
    code === 'format' && (wanted === 'text' || wanted === 'json') && /\\u[dD][89a-fA-F]/.test(body),
  'numbers that JavaScript does not hold': ({ code, wanted }, body) =>
    code === 'range' &&
    (wanted === 'integer' || wanted === 'real' || wanted === 'json' || wanted === 'bigint') &&
    /1e[34]00|9007199254740993|9223372036854775808/.test(body),
  'moments that leave the years 0 to 9999': ({ code, wanted }) => code === 'range' && wanted === 'timestamp',
};

describe('the law of request schemas', function () {
  this.timeout(3_600_000);
  it('a reader and the schema of its input agree on every body, but for a list of classes', () => {
    const seen = { right: 0, wrong: 0 };
    const excepted = new Map<string, number>();
    const check = (input: never, body: string, validate: (value: unknown) => boolean): void => {
      const result = reader(input).json(body);
      const isValid = validate(JSON.parse(body));
      if (result.ok) {
        seen.right++;
        if (!isValid) throw new Error(`only the schema refuses ${body}`);
        return;
      }
      seen.wrong++;
      if (!isValid) return;
      for (const issue of result.issues) {
        const found = Object.entries(CLASSES).find(([, isOne]) => isOne(issue, body));
        if (found === undefined) throw new Error(`only the reader refuses ${body}: ${JSON.stringify(issue)}`);
        excepted.set(found[0], (excepted.get(found[0]) ?? 0) + 1);
      }
    };
    fc.assert(
      fc.property(inputCases, fc.nat(), ({ input, bodies }, drawn) => {
        const validate = ajvOf().compile(jsonSchema(input));
        for (const body of fc.sample(bodies, { numRuns: BODIES_OF_EACH, seed: drawn }))
          check(input as never, body, (value) => validate(value) === true);
      }),
      { numRuns: Math.ceil(BODIES / BODIES_OF_EACH), seed: seed ?? 1, endOnFailure: true },
    );
    console.log(
      `      ${seen.right} right, ${seen.wrong} wrong; ${[...excepted].map(([name, count]) => `${name}: ${count}`).join(', ')}`,
    );
    expect(seen.right).to.be.above(BODIES / 20);
    expect(seen.wrong).to.be.above(BODIES / 20);
  });
});
