import { encode } from 'cborg';
import { expect } from 'chai';
import { largeBodies } from '../../../../bench/src/large-bodies.js';
import { form, standardFormats } from '../index.js';
import { type Ask, askOffice, JSON_BODY, openStore } from '../testing/ask.js';
import { VESSEL } from '../testing/office.js';

const CBOR_BODY = { 'content-type': 'application/cbor' };
const XML_BODY = { 'content-type': 'application/xml' };
const FORM_BODY = { 'content-type': 'application/x-www-form-urlencoded' };
const formats = [...standardFormats, form];

/** A text string of CBOR (RFC 8949, section 3.1) of these bytes, whatever they are. */
const rawText = (...bytes: number[]): number[] => [0x60 + bytes.length, ...bytes];

describe('large bodies', () => {
  const ask = askOffice({ formats, log: { error: (about) => expect.fail(JSON.stringify(about)) } });

  for (const { name, type, body, status } of largeBodies()) {
    it(`are refused in few words: ${name}`, async () => {
      const got = await ask('POST', '/operators', { 'content-type': type }, body);
      expect(got.status, got.text.slice(0, 300)).to.equal(status);
      expect(got.text.length).to.be.below(80_000);
    });
  }

  it('have a limit for the rows in them, in every format', async () => {
    const strict = askOffice({ formats, policies: { rows: 2 } });
    const row = { ...VESSEL, weight: '5' };
    const body = { name: 'Fleet', fleet: [row, row, row] };
    const answers = [
      await strict('POST', '/operators', JSON_BODY, JSON.stringify(body)),
      await strict('POST', '/operators', CBOR_BODY, encode(body)),
      await strict(
        'POST',
        '/operators',
        FORM_BODY,
        `name=F&fleet=${encodeURIComponent(JSON.stringify(body.fleet))}`,
      ),
    ];
    for (const { status, text } of answers) {
      expect(status, text).to.equal(413);
      expect(text).to.contain('at most 2 rows inside others').and.to.contain('"pointer":"/fleet"');
    }
    const two = JSON.stringify({ ...body, fleet: [row, row] });
    expect((await strict('POST', '/operators', JSON_BODY, two)).status).to.equal(201);
  });

  it('have limits for their members and levels, in every format', async () => {
    const strict = askOffice({ formats, policies: { items: 3, depth: 2 } });
    const statuses = async (headers: Record<string, string>, ...bodies: (string | Uint8Array)[]) => {
      const answers = [];
      for (const body of bodies) answers.push((await strict('POST', '/operators', headers, body)).status);
      return answers;
    };
    const many = { a: 1, b: 2, c: 3, d: 4 };
    const deep = { name: [[[]]] };
    expect(await statuses(JSON_BODY, JSON.stringify(many), JSON.stringify(deep))).to.deep.equal([413, 413]);
    expect(await statuses(CBOR_BODY, encode(many), encode(deep))).to.deep.equal([413, 413]);
    expect(await statuses(FORM_BODY, 'a=1&b=2&c=3&d=4')).to.deep.equal([413]);
    const elements = `<r>${'<a/>'.repeat(9)}</r>`;
    expect(await statuses(XML_BODY, elements, `<r>${'<a>'.repeat(5)}${'</a>'.repeat(5)}</r>`)).to.deep.equal([
      413, 413,
    ]);
  });
});

describe('bodies that try names', () => {
  const names = ['__proto__', 'constructor', 'toString', 'hasOwnProperty', '__defineGetter__'];

  for (const name of names) {
    it(`have no member called ${name}, in any format`, async () => {
      const ask = askOffice({ formats });
      const answers = [
        await ask('POST', '/operators', JSON_BODY, `{"name":"N","${name}":{"x":1}}`),
        await ask('POST', '/operators', XML_BODY, `<r><name>N</name><${name}><x>1</x></${name}></r>`),
        await ask(
          'POST',
          '/operators',
          CBOR_BODY,
          encode(
            new Map<string, unknown>([
              ['name', 'N'],
              [name, { x: 1 }],
            ]),
          ),
        ),
        await ask('POST', '/operators', FORM_BODY, `name=N&${name}=1`),
      ];
      for (const { status, text } of answers) {
        expect(status, text).to.equal(422);
        expect(text).to.contain(`"pointer":"/${name}"`);
      }
      expect(({} as Record<string, unknown>)['x']).to.equal(undefined);
    });
  }
});

describe('bodies of bytes that are no text', () => {
  const ask = (): Ask => askOffice({ formats });

  it('are refused in CBOR as in JSON', async () => {
    const broken = Uint8Array.from([0xa1, ...rawText(...Buffer.from('name')), ...rawText(0x41, 0xff, 0x42)]);
    expect((await ask()('POST', '/operators', CBOR_BODY, broken)).status).to.equal(400);
    const json = Buffer.concat([Buffer.from('{"name":"A'), Buffer.from([0xff]), Buffer.from('B"}')]);
    expect((await ask()('POST', '/operators', JSON_BODY, json)).status).to.equal(400);
  });

  it('keep the characters that stand for others elsewhere', async () => {
    for (const name of ['\ufffd', '\ufeffmark']) {
      const store = openStore();
      const sent = await askOffice({ store, formats })('POST', '/operators', CBOR_BODY, encode({ name }));
      expect(sent.status).to.equal(201);
      const read = await askOffice({ store })('GET', sent.headers.get('location') ?? '');
      expect(read.json()).to.include({ name });
    }
  });

  it('are refused where a form has a member of its JSON twice, or half a character', async () => {
    const rows = (text: string): string => `name=N&fleet=${encodeURIComponent(text)}`;
    const twice = await ask()('POST', '/operators', FORM_BODY, rows('[{"name":"a","name":"b"}]'));
    expect([twice.status, twice.text.includes('"pointer":"/fleet/0/name"')], twice.text).to.deep.equal([
      400,
      true,
    ]);
    const half = await ask()(
      'POST',
      '/operators',
      FORM_BODY,
      rows(`[${JSON.stringify({ ...VESSEL, name: '\ud800' })}]`),
    );
    expect(half.status, half.text).to.equal(422);
  });
});

describe('queries', () => {
  it('come back in no more than a few kilobytes', async () => {
    const ask = askOffice();
    const many = Array.from({ length: 1900 }, (_, i) => `a${i}`);
    for (const query of [
      `with=${Array.from({ length: 4000 }, () => 'a').join()}`,
      `with=${many.slice(0, 1400).join()}`,
      `fields=${many.slice(0, 1400).join()}`,
      `sort=${many.slice(0, 1400).join()}`,
      `kind=${many.slice(0, 1400).join()}`,
      many
        .slice(0, 1000)
        .map((name) => `${name}=1`)
        .join('&'),
    ]) {
      const { status, text } = await ask('GET', `/vessels?${query}`);
      expect(status, query.slice(0, 40)).to.equal(400);
      expect(text.length, query.slice(0, 40)).to.be.below(66_500);
      expect((JSON.parse(text) as { errors: unknown[] }).errors.length).to.be.at.most(101);
    }
    const { json } = await ask('GET', `/vessels?with=${Array.from({ length: 4000 }, () => 'a').join()}`);
    expect(json()).to.have.property('errors').that.has.length(1);
  });

  it('and long names in bodies are cut where they are told', async () => {
    const long = 'n'.repeat(5000);
    const { status, text } = await askOffice()(
      'POST',
      '/operators',
      JSON_BODY,
      JSON.stringify({ name: 'N', [long]: 1 }),
    );
    expect([status, text.length < 2000]).to.deep.equal([422, true]);
    const [{ pointer }] = (JSON.parse(text) as { errors: [{ pointer: string }] }).errors;
    expect(pointer).to.equal(`/${'n'.repeat(999)}…`);
  });
});
