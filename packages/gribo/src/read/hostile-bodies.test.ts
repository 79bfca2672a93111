import { expect } from 'chai';
import fc from 'fast-check';
import { bigint, entity, input, integer, json, model, reader } from '../index.js';
import { runs } from '../testing/cases.js';
import { type Any, good, inputOf, issuesOfText, NewVessel } from '../testing/read-bodies.js';

describe('hostile bodies', () => {
  it('are issues: no JSON, a member twice, bytes that are no text', () => {
    const cases: readonly [string, string][] = [
      ['', 'The text is no JSON: expected a value at line 1, column 1'],
      ['{"name":\n tru}', 'The text is no JSON: expected a value at line 2, column 2'],
      ['{"a":1,}', 'The text is no JSON: expected a member name in quotes at line 1, column 8'],
      ['[1 2]', 'The text is no JSON: expected "," or "]" at line 1, column 4'],
      ['{"a" 1}', 'The text is no JSON: expected ":" at line 1, column 6'],
      ['{} x', 'The text is no JSON: expected the end of the text at line 1, column 4'],
      [
        '"a\u0001"',
        'The text is no JSON: expected the end of a string, without control characters at line 1, column 3',
      ],
      ['"\\x"', 'The text is no JSON: expected an escape such as \\n or \\u00e9 at line 1, column 3'],
      ['01', 'The text is no JSON: expected the end of the text at line 1, column 2'],
    ];
    for (const [body, message] of cases) {
      const issues = issuesOfText(body);
      expect(issues, body).to.have.length(1);
      expect(issues[0], body).to.include({ pointer: '', code: 'syntax', message: `${message}.` });
      expect(issues[0]?.reason?.line, body).to.equal(Number(/line (\d+)/.exec(message ?? '')?.[1]));
    }
    expect(issuesOfText('{"operator":{"id":1,"id":2}}')[0]).to.include({
      pointer: '/operator/id',
      code: 'syntax',
    });
    expect(issuesOfText(Uint8Array.of(0x7b, 0xff, 0x7d))[0]).to.include({
      code: 'syntax',
      message: 'The bytes are no UTF-8 text.',
    });
  });

  it('that are right but for a member that is there twice are refused, by both engines', () => {
    // Presets are read by the interpreter: with a value of its own, the program reads all of it.
    const once = JSON.stringify({ ...good, built: 1999 });
    for (const engine of ['generated', 'interpreted'] as const) {
      const codes = (body: string): string[] => {
        const got = reader(NewVessel, {}, { engine }).json(body);
        return got.ok ? [] : got.issues.map(({ pointer, code }) => `${pointer} ${code}`);
      };
      expect(codes(once)).to.deep.equal([]);
      expect(codes(once.replace('{', '{"name":"Twice",'))).to.deep.equal(['/name syntax']);
      expect(codes(once.replace('"kind"', '"n\\u0061me" :"x","kind"'))).to.deep.equal(['/name syntax']);
      // Colons, quotes and backslashes inside strings are no members.
      expect(codes(once.replace('"Anselma"', '"a\\":\\\\"'))).to.deep.equal([]);
    }
  });

  it('that were parsed already are no bigint where digits are lost', () => {
    const Big = input(
      model({ big: entity('big', { id: integer().key().generated(), n: bigint(), j: json<unknown>() }) }, {})
        .big,
      (b) => ({ n: b.n, j: b.j }),
    );
    for (const engine of ['generated', 'interpreted'] as const) {
      const codes = (body: object): string[] => {
        const got = reader(Big, { digits: 'textOrNumber' }, { engine }).object(body);
        return got.ok ? [] : got.issues.map(({ pointer, code }) => `${pointer} ${code}`);
      };
      expect(codes({ n: 2 ** 53 - 1, j: 1 })).to.deep.equal([]);
      expect(codes({ n: 2 ** 63, j: 1 })).to.deep.equal(['/n range']);
      expect(codes({ n: -(2 ** 53), j: 1 })).to.deep.equal(['/n range']);
      expect(codes({ n: 1, j: { a: Number.NaN } })).to.deep.equal(['/j range']);
      expect(codes({ n: 1, j: { a: undefined } })).to.deep.equal(['/j type']);
      expect(codes({ n: 1, j: [() => 1] })).to.deep.equal(['/j type']);
    }
  });

  it('do not crash, hang or pollute', () => {
    const deep = `${'['.repeat(100_000)}${']'.repeat(100_000)}`;
    expect(issuesOfText(deep)[0]?.code).to.equal('limit');
    expect(issuesOfText(`{"name":"${'x'.repeat(10_000_000)}"}`)[0]?.code).to.equal('limit');
    expect(issuesOfText(`[${'1,'.repeat(999_999)}1]`, { bytes: 1e8 })[0]?.code).to.equal('limit');
    let nested: unknown = 1;
    for (let i = 0; i < 100_000; i++) nested = [nested];
    const Free = inputOf(json());
    const got = reader(Free).object({ value: nested }) as Any;
    expect(got.issues[0].code).to.equal('limit');
    const polluted = reader(NewVessel, { unknown: 'ignore' }).json(
      '{"__proto__":{"polluted":1},"constructor":{"prototype":{"polluted":1}},"name":"A"}',
    );
    expect(polluted.ok).to.equal(false);
    expect(({} as Any).polluted).to.equal(undefined);
    const names = reader(NewVessel).json('{"__proto__":{},"constructor":1,"toString":2}');
    const codes = names.ok ? [] : names.issues.map(({ pointer, code }) => `${pointer} ${code}`);
    expect(codes.slice(0, 3)).to.deep.equal([
      '/__proto__ unknown',
      '/constructor unknown',
      '/toString unknown',
    ]);
  });

  it('keep names of one escaped character, after others like them too', () => {
    const read = reader(inputOf(json()));
    // Some engines take such a name for the backslash that stood there before.
    for (const name of ['\\\\', '\\n', '\\"', '\\u0001', '\\u0061', '\\/']) {
      const got = read.json(`{"value":{"id2":"x","${name}" :"v"}}`) as Any;
      const [, last] = Object.keys(got.value.value);
      expect(last, name).to.equal(
        { '\\\\': '\\', '\\n': '\n', '\\"': '"', '\\u0001': '\u0001', '\\u0061': 'a', '\\/': '/' }[name],
      );
    }
  });

  it('that break off anywhere are told at once, by both engines', () => {
    const whole = '{"name":"A\\"n","imoNumber":"9074729","flag":{"state":"QM"}}';
    for (let end = 0; end < whole.length; end++) {
      expect(issuesOfText(whole.slice(0, end))[0]?.code, whole.slice(0, end)).to.equal('syntax');
    }
  });

  it('never throw, and parse as JSON.parse does where that is exact', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.json(),
          fc.string({
            unit: fc.constantFrom('{', '}', '[', ']', '"', ':', ',', '1', 'e', '-', '\\', 'u', ' '),
          }),
        ),
        (body) => {
          const got = reader(inputOf(json())).json(`{"value":${body}}`) as Any;
          let expected: Any;
          try {
            expected = JSON.parse(`{"value":${body}}`);
          } catch {
            expect(got.ok).to.equal(false);
            return;
          }
          if (got.ok) expect(JSON.stringify(got.value.value)).to.equal(JSON.stringify(expected.value));
        },
      ),
      runs(500),
    );
  });
});
