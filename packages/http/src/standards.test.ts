import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import {
  amending,
  api,
  collection,
  entity,
  input,
  integer,
  json as jsonColumn,
  list,
  memoryStore,
  model,
  optional,
  page,
  pointerPart,
  reader,
  shape,
  text,
  timestamp,
  writer,
} from 'gribo';
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

const values = model(
  {
    free: entity('free', {
      id: integer().key().generated(),
      a: jsonColumn<unknown>().nullable(),
      b: text().nullable(),
      inA: text().nullable(),
      inB: text().nullable(),
    }),
    moment: entity('moment', { id: integer().key().generated(), at: timestamp() }),
  },
  {},
);
const Free = shape(values.free, (f) => ({ id: f.id, a: f.a, b: f.b, in: { a: f.inA, b: f.inB } }));
const NewFree = input(values.free, (f) => ({
  a: optional(f.a),
  b: optional(f.b),
  in: optional({ a: optional(f.inA), b: optional(f.inB) }),
}));
const EditFree = amending(NewFree, (members) => members);
const NewMoment = input(values.moment, ({ at }) => ({ at }));

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

  it('RFC 6901, section 5: pointers to the members of its example', () => {
    const table: readonly (readonly [name: string, pointer: string])[] = [
      ['foo', '/foo'],
      ['', '/'],
      ['a/b', '/a~1b'],
      ['c%d', '/c%d'],
      ['e^f', '/e^f'],
      ['g|h', '/g|h'],
      ['i\\j', '/i\\j'],
      ['k"l', '/k"l'],
      [' ', '/ '],
      ['m~n', '/m~0n'],
    ];
    for (const [name, pointer] of table) expect(pointerPart(name)).to.equal(pointer);
    // Told of members that are unknown, escaped the same way.
    const got = reader(NewFree).object(Object.fromEntries(table.map(([name]) => [name, 1])));
    const told = got.ok ? [] : got.issues.map(({ pointer }) => pointer);
    expect(told).to.include.members(table.map(([, pointer]) => pointer));
  });

  it('RFC 3339, section 5.8: its examples; leap seconds are refused, for databases lose them', () => {
    const read = (at: string): unknown => {
      const got = reader(NewMoment).object({ at });
      return got.ok ? got.value.at.toISOString() : got.issues[0]?.code;
    };
    expect(read('1985-04-12T23:20:50.52Z')).to.equal('1985-04-12T23:20:50.520Z');
    expect(read('1996-12-19T16:39:57-08:00')).to.equal('1996-12-20T00:39:57.000Z');
    expect(read('1937-01-01T12:00:27.87+00:20')).to.equal('1937-01-01T11:40:27.870Z');
    expect(read('1990-12-31T23:59:60Z')).to.equal('format');
    expect(read('1990-12-31T15:59:60-08:00')).to.equal('format');
  });

  it('RFC 7396, appendix A: patches of members and groups; a JSON column is one value, and is replaced', () => {
    // What was there, the patch, and what is there then; null stands for a member that is gone.
    const table: readonly (readonly [was: object, patch: unknown, is: object | null])[] = [
      [{ a: 'b' }, { a: 'c' }, { a: 'c', b: null }],
      [{ a: 'b' }, { b: 'c' }, { a: 'b', b: 'c' }],
      [{ a: 'b' }, { a: null }, { a: null, b: null }],
      [{ a: 'b', b: 'c' }, { a: null }, { a: null, b: 'c' }],
      [{ a: ['b'] }, { a: 'c' }, { a: 'c', b: null }],
      [{ a: 'c' }, { a: ['b'] }, { a: ['b'], b: null }],
      // Line 7 of the appendix, of a group: its members are patched one by one.
      [{ in: { a: 'b' } }, { in: { a: 'd', b: null } }, { in: { a: 'd', b: null } }],
      // The same of a JSON column: the whole of it.
      [{ a: { b: 'c' } }, { a: { b: 'd', c: null } }, { a: { b: 'd', c: null }, b: null }],
      [{ a: [{ b: 'c' }] }, { a: [1] }, { a: [1], b: null }],
      [{ a: 'foo' }, ['c'], null],
      [{ a: 'foo' }, null, null],
      [{ a: 'foo' }, 'bar', null],
      [{ b: null }, { a: 1 }, { a: 1, b: null }],
      [{}, { a: { bb: { ccc: null } } }, { a: { bb: { ccc: null } }, b: null }],
    ];
    for (const [was, patch, is] of table) {
      const read = (body: unknown) => reader(EditFree).object(body);
      const [before, change] = [read(was), read(patch)];
      if (is === null) {
        expect(change.ok, JSON.stringify(patch)).to.equal(false);
        continue;
      }
      const row = { id: 1, a: null, b: null, inA: null, inB: null };
      const then = { ...row, ...(before.ok ? before.value : {}), ...(change.ok ? change.value : {}) };
      const { id: _id, in: group, ...members } = writer(Free).object(then) as { id: number; in: object };
      expect('in' in is ? { in: group } : members, JSON.stringify(patch)).to.deep.equal(is);
    }
  });

  it('RFC 8949, appendix A: the values that JSON has are taken, and no others', async () => {
    const taken: readonly (readonly [hex: string, value: unknown])[] = [
      ['00', 0],
      ['01', 1],
      ['0a', 10],
      ['17', 23],
      ['1818', 24],
      ['1819', 25],
      ['1864', 100],
      ['1903e8', 1000],
      ['1a000f4240', 1_000_000],
      ['1b000000e8d4a51000', 1_000_000_000_000],
      ['20', -1],
      ['29', -10],
      ['3863', -100],
      ['3903e7', -1000],
      ['f90000', 0],
      ['f98000', -0],
      ['f93c00', 1],
      ['fb3ff199999999999a', 1.1],
      ['f93e00', 1.5],
      ['f97bff', 65_504],
      ['fa47c35000', 100_000],
      ['fa7f7fffff', 3.4028234663852886e38],
      ['fb7e37e43c8800759c', 1e300],
      ['f90001', 2 ** -24],
      ['f90400', 0.00006103515625],
      ['f9c400', -4],
      ['fbc010666666666666', -4.1],
      ['f4', false],
      ['f5', true],
      ['f6', null],
      ['40', ''],
      ['4401020304', 'AQIDBA=='],
      ['60', ''],
      ['6161', 'a'],
      ['6449455446', 'IETF'],
      ['62225c', '"\\'],
      ['62c3bc', 'ü'],
      ['63e6b0b4', '水'],
      ['64f0908591', '𐅑'],
      ['80', []],
      ['83010203', [1, 2, 3]],
      ['8301820203820405', [1, [2, 3], [4, 5]]],
      [
        '98190102030405060708090a0b0c0d0e0f101112131415161718181819',
        Array.from({ length: 25 }, (_, i) => i + 1),
      ],
      ['a0', {}],
      ['a26161016162820203', { a: 1, b: [2, 3] }],
      ['826161a161626163', ['a', { b: 'c' }]],
      ['a56161614161626142616361436164614461656145', { a: 'A', b: 'B', c: 'C', d: 'D', e: 'E' }],
      ['9fff', []],
      ['9f018202039f0405ffff', [1, [2, 3], [4, 5]]],
      ['9f01820203820405ff', [1, [2, 3], [4, 5]]],
      ['83018202039f0405ff', [1, [2, 3], [4, 5]]],
      ['83019f0203ff820405', [1, [2, 3], [4, 5]]],
      ['bf61610161629f0203ffff', { a: 1, b: [2, 3] }],
      ['826161bf61626163ff', ['a', { b: 'c' }]],
      ['bf6346756ef563416d7421ff', { Fun: true, Amt: -2 }],
    ];
    const refused = ['f97c00', 'f97e00', 'f9fc00', 'fa7f800000', 'fb7ff8000000000000', 'f7', 'f0', 'f8ff']
      .concat(['1bffffffffffffffff', 'c249010000000000000000', '3bffffffffffffffff', 'a201020304'])
      .concat(['c074323031332d30332d32315432303a30343a30305a', 'c11a514b67b0', 'd74401020304']);
    const free = api({
      title: 'Free',
      version: '1',
      endpoints: {
        free: collection('/free', values.free, { read: Free, create: { takes: NewFree, returns: Free } }),
      },
    });
    const handle = serve(free, { store: memoryStore(values, {}) });
    const send = async (hex: string): Promise<Response> => {
      const body = Buffer.from(`a16161${hex}`, 'hex');
      const headers = { 'content-type': 'application/cbor' };
      return handle(
        new Request('http://f.test/free', { method: 'POST', headers, body: new Uint8Array(body) }),
      );
    };
    for (const [hex, value] of taken) {
      const response = await send(hex);
      expect(response.status, hex).to.equal(201);
      expect(((await response.json()) as { a: unknown }).a, hex).to.deep.equal(
        Object.is(value, -0) ? 0 : value,
      );
    }
    // Strings in parts of which nobody says how many there are.
    refused.push('5f42010243030405ff', '7f657374726561646d696e67ff');
    for (const hex of refused) expect((await send(hex)).status, hex).to.be.oneOf([400, 422]);
  });
});
