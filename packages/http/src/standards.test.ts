import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import { api, collection, entity, integer, list, memoryStore, model, page, shape, text } from 'gribo';
import { type Format, json, serve, standardFormats } from './index.js';

const db = model(
  { note: entity('note', { id: integer().key(), aaa: text(), bbb: text(), ccc: text() }) },
  {},
);
const Note = shape(db.note, ({ aaa, bbb, ccc }) => ({ aaa, bbb, ccc }));

const notes = (texts: readonly (readonly [string, string, string])[]) =>
  memoryStore(db, { note: texts.map(([aaa, bbb, ccc], i) => ({ id: i + 1, aaa, bbb, ccc })) });

const get = async (
  texts: readonly (readonly [string, string, string])[],
  path: string,
  accept: string,
  formats: readonly Format[] = standardFormats,
): Promise<Response> => {
  const office = api({
    title: 'Notes',
    version: '1',
    endpoints: {
      notes: collection('/notes', db.note, {
        list: list(Note),
        deprecated: { since: '2023-06-30', sunset: '2018-12-31', instead: '/v2/notes' },
      }),
      pages: collection('/pages', db.note, { list: page(Note, { size: 1, sort: ['aaa'] }) }),
    },
  });
  const handle = serve(office, { store: notes(texts), formats });
  return handle(new Request(`http://notes.test${path}`, { headers: { accept } }));
};

describe('the examples of the standards', () => {
  it('RFC 4180, section 2: lines, quotes, line breaks', async () => {
    const rows = [
      ['zzz', 'yyy', 'xxx'],
      ['aaa', 'b\r\nbb', 'ccc'],
      ['aaa', 'b"bb', 'ccc'],
    ] as const;
    const csv = await (await get(rows, '/notes', 'text/csv')).text();
    expect(csv).to.equal('aaa,bbb,ccc\r\nzzz,yyy,xxx\r\naaa,"b\r\nbb",ccc\r\naaa,"b""bb",ccc\r\n');
    expect(parse(csv, { from_line: 2 })).to.deep.equal(rows);
  });

  it('RFC 9110, section 12.5.1: the most specific range decides, by its weight', async () => {
    const accept =
      'text/*;q=0.3, text/plain;q=0.7, text/plain;format=flowed, text/plain;format=fixed;q=0.4, */*;q=0.5';
    const format = (mediaType: string): Format => ({
      name: mediaType,
      mediaTypes: [mediaType],
      write: () => 'x',
    });
    // The standard's own table, the highest first.
    const inOrder = [
      'text/plain;format=flowed',
      'text/plain',
      'image/jpeg',
      'text/plain;format=fixed',
      'text/html',
    ];
    for (let from = 0; from < inOrder.length; from++) {
      const formats = inOrder.slice(from).reverse().map(format);
      const response = await get([], '/notes', accept, formats);
      expect(response.headers.get('content-type')).to.equal(inOrder[from]);
    }
    const audio = [format('audio/basic'), format('audio/mpeg')];
    const preferred = await get([], '/notes', 'audio/*; q=0.2, audio/basic', audio.reverse());
    expect(preferred.headers.get('content-type')).to.equal('audio/basic');
    const elaborate = 'text/plain; q=0.5, text/html, text/x-dvi; q=0.8, text/x-c';
    const dvi = await get([], '/notes', elaborate, [format('text/plain'), format('text/x-dvi')]);
    expect(dvi.headers.get('content-type')).to.equal('text/x-dvi');
  });

  it('RFC 9745 and RFC 8594: seconds since 1970 after an @; the last moment of the day as an HTTP date', async () => {
    const { headers } = await get([], '/notes', '*/*');
    expect(headers.get('deprecation')).to.equal('@1688083200');
    expect(headers.get('sunset')).to.equal('Mon, 31 Dec 2018 23:59:59 GMT');
    expect(headers.get('link')).to.equal('</v2/notes>; rel="successor-version"');
  });

  it('RFC 8288, section 3: targets in angle brackets, relations in quotes', async () => {
    const { headers } = await get(
      [
        ['b', '', ''],
        ['a', '', ''],
      ],
      '/pages?page=1',
      '*/*',
    );
    const links = [...(headers.get('link') ?? '').matchAll(/<([^>]+)>; rel="([a-z]+)"(?:, |$)/g)];
    expect(links.map(([, target, relation]) => [relation, target])).to.deep.equal([
      ['next', '/pages?page=2'],
      ['last', '/pages?page=2'],
    ]);
  });

  it('RFC 9457, section 3 and appendix B: the members of a problem, in JSON and XML', async () => {
    const problem = await get([], '/pages?page=x', 'application/problem+json, application/json;q=0.1', [
      json,
    ]);
    expect(problem.headers.get('content-type')).to.equal('application/problem+json');
    expect(await problem.json()).to.have.all.keys('type', 'title', 'status', 'detail', 'errors');
    const xml = await (
      await get([], '/pages?page=x', 'application/problem+xml, application/json;q=0.1', [json])
    ).text();
    expect(xml).to.match(
      /^<\?xml version="1\.0" encoding="UTF-8"\?>\n<problem xmlns="urn:ietf:rfc:7807"><type>.*<\/type><title>.*<\/title><status>400<\/status><detail>.*<\/detail><errors><i>.*<\/i><\/errors><\/problem>\n$/,
    );
  });
});
