import { expect } from 'chai';
import { askOffice } from '../testing/ask.js';

const JSON_TYPE = 'application/json';
const CSV = 'text/csv; charset=utf-8';
const XML = 'application/xml; charset=utf-8';
const TEXT_XML = 'text/xml; charset=utf-8';
const CBOR = 'application/cbor';
const NDJSON = 'application/x-ndjson';

/** What a caller accepts, and what a list and a single row are then sent as; null: 406. */
const CASES: readonly (readonly [accept: string | null, list: string | null, one: string | null])[] = [
  [null, JSON_TYPE, JSON_TYPE],
  ['*/*', JSON_TYPE, JSON_TYPE],
  ['application/json', JSON_TYPE, JSON_TYPE],
  ['APPLICATION/JSON', JSON_TYPE, JSON_TYPE],
  ['application/*', JSON_TYPE, JSON_TYPE],
  ['text/*', CSV, TEXT_XML],
  ['text/csv', CSV, null],
  ['text/csv, */*', CSV, JSON_TYPE],
  ['application/xml', XML, XML],
  ['text/xml', TEXT_XML, TEXT_XML],
  ['application/cbor', CBOR, CBOR],
  ['application/x-ndjson', NDJSON, null],
  ['application/jsonl', 'application/jsonl', null],
  ['text/html', null, null],
  ['image/*', null, null],
  ['text/plain, image/png', null, null],
  ['', JSON_TYPE, JSON_TYPE],
  [',', null, null],
  ['garbage', null, null],
  ['application', null, null],
  ['application/', null, null],
  ['/json', null, null],
  ['application/json;q=0', null, null],
  ['*/*;q=0', null, null],
  ['application/json;q=0, */*', CSV, XML],
  ['application/json;q=0.0, application/xml;q=0.001', XML, XML],
  ['application/json;q=0.2, application/xml;q=0.8', XML, XML],
  ['application/json;q=0.8, application/xml;q=0.2', JSON_TYPE, JSON_TYPE],
  ['application/xml, application/json', XML, XML],
  ['application/json, application/xml', JSON_TYPE, JSON_TYPE],
  ['application/xml;q=0.9, application/json;q=0.9', XML, XML],
  ['text/csv;q=0.5, application/json;q=0.4', CSV, JSON_TYPE],
  ['text/csv;q=0.4, application/json;q=0.5', JSON_TYPE, JSON_TYPE],
  ['text/html, application/xhtml+xml, application/xml;q=0.9, */*;q=0.8', XML, XML],
  ['text/html, */*;q=0.1', JSON_TYPE, JSON_TYPE],
  ['*/*;q=0.1, application/cbor', CBOR, CBOR],
  ['*/*, application/cbor;q=0.5', JSON_TYPE, JSON_TYPE],
  ['application/*;q=0.5, application/cbor', CBOR, CBOR],
  ['application/*, application/json;q=0', XML, XML],
  ['text/*;q=0.3, application/xml;q=0.2', CSV, TEXT_XML],
  ['text/*, text/csv;q=0', TEXT_XML, TEXT_XML],
  ['application/json;charset=utf-8', JSON_TYPE, JSON_TYPE],
  ['application/json; charset=UTF-8', JSON_TYPE, JSON_TYPE],
  ['application/json;charset="utf-8"', JSON_TYPE, JSON_TYPE],
  ['application/json;charset=iso-8859-1', null, null],
  ['text/csv;charset=utf-8', CSV, null],
  ['text/csv;charset=utf-16, application/json', JSON_TYPE, JSON_TYPE],
  ['application/json;profile=x', null, null],
  ['application/json;profile=x, application/xml;q=0.1', XML, XML],
  ['application/json ; q=0.3 , application/xml ; q=0.4', XML, XML],
  ['application/json;q=0.1;charset=utf-8, application/xml;q=0.5', XML, XML],
  ['application/json;q=0.5;charset=utf-8, application/xml;q=0.1', JSON_TYPE, JSON_TYPE],
  ['application/json;q=0.9;profile=x, application/xml;q=0.1', XML, XML],
  ['application/json;Q=0.3, application/xml;Q=0.4', XML, XML],
  ['application/x-www-form-urlencoded', null, null],
  ['application/merge-patch+json', null, null],
  ['application/problem+json', null, null],
  ['application/problem+json, application/json', JSON_TYPE, JSON_TYPE],
  ['application/vnd.office+json, application/json;q=0.5', JSON_TYPE, JSON_TYPE],
  ['application/json, application/json;q=0', JSON_TYPE, JSON_TYPE],
  ['application/cbor;q=1, application/json;q=1', CBOR, CBOR],
  ['application/cbor;q=1.000, application/json;q=0.999', CBOR, CBOR],
  ['application/xml;q=0.5, text/xml;q=0.7', TEXT_XML, TEXT_XML],
  ['text/xml;q=0.5, application/xml;q=0.7', XML, XML],
  ['application/x-ndjson, application/json;q=0.1', NDJSON, JSON_TYPE],
  ['application/x-ndjson;q=0, */*', JSON_TYPE, JSON_TYPE],
  ['*/*;q=0.5, text/*;q=0.6, application/json;q=0.4', CSV, TEXT_XML],
  [`${'text/plain, '.repeat(200)}application/cbor`, CBOR, CBOR],
];

describe('negotiation', () => {
  const ask = askOffice();
  const accepting = (accept: string | null): Record<string, string> => (accept === null ? {} : { accept });

  it('is tested by many cases', () => expect(CASES.length).to.be.at.least(60));

  for (const [accept, list, one] of CASES) {
    it(`Accept: ${String(accept).slice(0, 70)}`, async () => {
      for (const [path, expected] of [
        ['/operators', list],
        ['/operators/1', one],
      ] as const) {
        const { status, headers, text } = await ask('GET', path, accepting(accept));
        expect(status, text).to.equal(expected === null ? 406 : 200);
        if (expected !== null) expect(headers.get('content-type')).to.equal(expected);
        expect(headers.get('vary')).to.match(/^Accept\b/);
      }
    });
  }

  it('lists what there is where nothing is acceptable', async () => {
    const { json } = await ask('GET', '/operators/1', { accept: 'text/csv' });
    expect(json()).to.deep.equal({
      type: 'about:blank',
      title: 'Not Acceptable',
      status: 406,
      detail:
        'There is no such format here. There are: application/json (json), application/xml (xml), application/cbor (cbor).',
    });
  });

  it('mirrors the format that was sent, or takes the first, where it is told to', async () => {
    const html = { accept: 'text/html' };
    const form = { ...html, 'content-type': 'application/xml' };
    const body = '<o><name>Sent As Xml</name></o>';
    const vessel = '<v><name>A</name></v>';
    const mirroring = askOffice({ unacceptable: 'mirror' });
    expect((await mirroring('PATCH', '/vessels/1', form, vessel)).headers.get('content-type')).to.equal(XML);
    expect((await mirroring('GET', '/vessels/1', html)).status).to.equal(406);
    const unwritable = { ...html, 'content-type': 'application/x-www-form-urlencoded' };
    expect((await mirroring('PATCH', '/vessels/1', unwritable, 'name=B')).status).to.equal(406);
    expect((await mirroring('POST', '/operators', form, body)).status).to.equal(201);
    const taking = askOffice({ unacceptable: 'first' });
    expect((await taking('GET', '/vessels/1', html)).headers.get('content-type')).to.equal(JSON_TYPE);
  });

  it('does nothing of what it could not answer', async () => {
    const { status } = await ask('DELETE', '/vessels/5', { accept: 'text/html' });
    expect(status, 'there is no body to disagree about').to.equal(204);
    const named = await ask(
      'PATCH',
      '/vessels/1',
      { accept: 'text/html', 'content-type': JSON_TYPE },
      '{"name":"X"}',
    );
    expect(named.status).to.equal(406);
    expect((await ask('GET', '/vessels/1')).json()).to.include({ name: 'Anselma' });
  });

  it('takes ?format= where that is switched on, and refuses it elsewhere', async () => {
    const byName = askOffice({ formatParameter: true });
    const xml = await byName('GET', '/operators/1?format=xml', { accept: 'application/json' });
    expect(xml.headers.get('content-type')).to.equal(XML);
    expect((await byName('GET', '/operators/1?format=csv')).status).to.equal(406);
    expect((await byName('GET', '/operators?format=csv')).text).to.contain('Lantern Bay Lines\r\n');
    expect((await ask('GET', '/operators/1?format=xml')).status).to.equal(400);
  });
});
