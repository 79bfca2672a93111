import { decode, encode } from 'cborg';
import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import {
  api,
  collection,
  constant,
  count,
  first,
  list,
  memoryStore,
  type SayIssue,
  sayIssue,
  shape,
  some,
} from 'gribo';
import { stock, stockRows } from '../../../gribo/src/testing/stock.js';
import {
  csv,
  type Format,
  form,
  json,
  MalformedBody,
  ndjson,
  serve,
  standardFormats,
  xml,
} from '../index.js';
import { askOffice, JSON_BODY } from '../testing/ask.js';
import { VESSEL } from '../testing/office.js';

const CallLine = shape(stock.portCall, ({ id, status }) => ({ id, status }));
const Wide = shape(
  stock.vessel,
  (v) => ({
    id: v.id,
    name: v.name,
    sign: v.callSign,
    group: { built: v.builtYear, on: { active: v.active } },
    operator: shape(stock.operator, (o) => ({ name: o.name }))(v.operator),
    next: first(some(v.portCalls, { sort: ['id'] }), CallLine),
    calls: CallLine(v.portCalls),
    many: count(v.portCalls),
    details: v.details,
    formula: constant('=1+1'),
    'odd name': constant(true),
    '2nd': constant(null),
    xmlish: constant(1),
  }),
  { name: 'Wide' },
);

const wide = api({
  title: 'Wide',
  version: '1',
  endpoints: { vessels: collection('/vessels', stock.vessel, { list: list(Wide), read: Wide }) },
});

const get = async (
  path: string,
  accept: string,
  formats: readonly Format[] = standardFormats,
): Promise<Response> =>
  serve(wide, { store: memoryStore(stock, stockRows), formats })(
    new Request(`http://wide.test${path}`, { headers: { accept } }),
  );

describe('CSV', () => {
  it('has a header, dotted names, JSON text for lists, and reads back (RFC 4180)', async () => {
    const text = await (await get('/vessels', 'text/csv')).text();
    const [header, one, , three] = parse(text) as string[][];
    expect(header).to.deep.equal(
      'id,name,sign,group.built,group.on.active,operator.name,next.id,next.status,calls,many,details,formula,odd name,2nd,xmlish'.split(
        ',',
      ),
    );
    expect(one?.slice(0, 6)).to.deep.equal(['1', 'Anselma', 'MR1', '1981', 'false', 'Lantern Bay Lines']);
    expect(JSON.parse(one?.[8] ?? '')).to.have.length(3);
    expect(three?.[1]).to.equal('100% "Tern"_\\ O\'Hara 青波 🚢\n');
    expect(JSON.parse(three?.[10] ?? '')).to.deep.equal({ colours: ['red', null], depth: 1.5, note: "it's" });
    expect(text.split('\r\n').at(-1)).to.equal('');
    expect(text).to.contain('"100% ""Tern""_\\ O\'Hara 青波 🚢\n"');
  });

  it('tells empty text from null', async () => {
    const lines = (await (await get('/vessels', 'text/csv')).text()).split('\r\n');
    expect(lines[2]).to.match(/^2,Borrowed Light,,1982/);
    expect(lines[3]).to.match(/🚢\n","",1983/);
  });

  it('guards spreadsheets where it is told to', async () => {
    const guarded = await (await get('/vessels', 'text/csv', [csv({ guardFormulas: true })])).text();
    expect(guarded).to.contain(",'=1+1,").and.not.contain(',=1+1,');
    expect(await (await get('/vessels', 'text/csv')).text()).to.contain(',=1+1,');
  });
});

describe('XML', () => {
  const parsed = async (path: string, formats?: readonly Format[]) => {
    const text = await (await get(path, 'application/xml', formats)).text();
    expect(XMLValidator.validate(text)).to.equal(true);
    return {
      text,
      value: new XMLParser({ ignoreAttributes: false, parseTagValue: false }).parse(text) as Record<
        string,
        unknown
      >,
    };
  };

  it('is well formed, with items for lists and nil for null', async () => {
    const { value } = await parsed('/vessels/1');
    const response = value['response'] as Record<string, unknown>;
    expect(response).to.deep.include({ id: '1', name: 'Anselma', sign: 'MR1', many: '3' });
    expect((response['calls'] as { item: unknown[] }).item).to.have.length(3);
    expect(response['details']).to.deep.include({ '@_xsi:nil': 'true' });
  });

  it('makes names valid and keeps them', async () => {
    const { text } = await parsed('/vessels/1');
    expect(text).to.contain('<odd_name name="odd name">true</odd_name>');
    expect(text).to.contain('<_2nd name="2nd" xsi:nil="true"/>');
    // Names that start so are the standard's own (XML 1.0, section 2.3).
    expect(text).to.contain('<_xmlish name="xmlish">1</_xmlish>');
  });

  it('escapes text, and puts U+FFFD for what XML cannot hold', async () => {
    const rows = {
      ...stockRows,
      operator: [{ id: 1, name: '<&>"\u0000\u0008\ud800 ]]>', parentId: null }],
      vessel: [],
      portCall: [],
      pilotage: [],
    };
    const Name = shape(stock.operator, ({ name }) => ({ name }));
    const small = api({
      title: 'S',
      version: '1',
      endpoints: { o: collection('/o', stock.operator, { read: Name }) },
    });
    const handle = serve(small, { store: memoryStore(stock, rows) });
    const text = await (
      await handle(new Request('http://s.test/o/1', { headers: { accept: 'text/xml' } }))
    ).text();
    expect(XMLValidator.validate(text)).to.equal(true);
    expect(text).to.contain('<name>&lt;&amp;&gt;"\ufffd\ufffd\ufffd ]]&gt;</name>');
  });

  it('uses the names that it is given', async () => {
    const { text } = await parsed('/vessels', [xml({ root: 'harbour office', item: 'row' })]);
    expect(text).to.match(/^<\?xml version="1\.0" encoding="UTF-8"\?>\n<harbour_office /);
    expect(text).to.contain('<row><id>1</id>');
  });

  it('is read: entities, CDATA, comments, nil, items', async () => {
    const ask = askOffice();
    const body = `<?xml version="1.0"?><!-- new --><vessel xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance">
      <name>A &amp; B &#x41;&#66; <![CDATA[<c>]]></name><callSign xsi:nil="true"/><kind>tug</kind><built>2001</built>
      <size><tonnage>12.5</tonnage><draught>2</draught></size><active>true</active><weight>9007199254740993</weight>
      <operator><id>3</id></operator></vessel>`;
    const { status, json: value, text } = await ask('POST', '/vessels', { 'content-type': 'text/xml' }, body);
    expect(status, text).to.equal(201);
    expect(value()).to.deep.include({
      name: 'A & B AB <c>',
      callSign: null,
      size: { tonnage: '12.5', draught: 2 },
    });
    const fleet = `<o xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance"><name>Xml Lines</name><fleet>${`<item>${body.slice(body.indexOf('<name>'), body.indexOf('<operator>'))}</item>`.repeat(2)}</fleet></o>`;
    expect((await ask('POST', '/operators', { 'content-type': 'application/xml' }, fleet)).status).to.equal(
      201,
    );
    expect((await ask('GET', '/vessels?q=A%20%26%20B')).json()).to.have.nested.property('page.total', 3);
  });

  it('refuses what is none, document types, and unknown entities', async () => {
    const ask = askOffice();
    const bomb = '<!DOCTYPE a [<!ENTITY b "bbbb">]><v><name>&b;</name></v>';
    for (const body of [
      '',
      '<v>',
      '<v><name>x</v>',
      'text',
      bomb,
      '<v><name>&unknown;</name></v>',
      '<v><name>&#0;</name></v>',
      '<v><name>a</name><name>b</name></v>',
    ]) {
      const { status, text } = await ask('PATCH', '/vessels/1', { 'content-type': 'application/xml' }, body);
      expect(status, `${body} ${text}`).to.equal(body === '' || body === 'text' ? status : 400);
      expect(status, body).to.be.within(400, 422);
    }
    const unknown = await ask(
      'PATCH',
      '/vessels/1',
      { 'content-type': 'application/xml' },
      '<v><nmae>x</nmae></v>',
    );
    expect(unknown.status).to.equal(422);
    expect(unknown.text).to.contain('Did you mean');
  });
});

describe('CBOR', () => {
  it('is the JSON value, as RFC 8949 encodes it', async () => {
    const bytes = new Uint8Array(await (await get('/vessels/1', 'application/cbor')).arrayBuffer());
    const value = (await (await get('/vessels/1', 'application/json')).json()) as object;
    expect(decode(bytes)).to.deep.equal(value);
    // Appendix A of the RFC.
    const hex = (item: unknown): string => Buffer.from(encode(item)).toString('hex');
    expect([hex({ a: 1, b: [2, 3] }), hex('\u6c34'), hex(1.1), hex(-1000)]).to.deep.equal([
      'a26161016162820203',
      '63e6b0b4',
      'fb3ff199999999999a',
      '3903e7',
    ]);
  });

  it('is read, bytes and, where numbers are taken for bigints, big numbers too', async () => {
    const ask = askOffice({ policies: { digits: 'textOrNumber' } });
    const head = { 'content-type': 'application/cbor' };
    const body = {
      name: 'C',
      kind: 'tug',
      built: 2001,
      size: { tonnage: '1.5', draught: 2 },
      active: true,
      weight: 9007199254740993n,
    };
    expect((await ask('POST', '/vessels', head, encode(body))).status).to.equal(201);
    for (const weight of [5, body.weight]) {
      const refused = await askOffice()('POST', '/vessels', head, encode({ ...body, weight }));
      expect(refused.status, String(weight)).to.equal(422);
    }
    const wrong = await ask('POST', '/vessels', head, encode({ ...body, name: 5 }));
    expect(wrong.status).to.equal(422);
    expect(wrong.text).to.contain('"pointer":"/name"');
  });

  it('refuses what is none, or too deep, or has a key twice', async () => {
    const ask = askOffice();
    const twice = Buffer.from('a2616101616102', 'hex');
    const proto = Buffer.concat([
      Buffer.from('a169', 'hex'),
      Buffer.from('__proto__'),
      Buffer.from('a0', 'hex'),
    ]);
    for (const body of [
      new Uint8Array(),
      Buffer.from('ff', 'hex'),
      Buffer.alloc(100_000, 0x81),
      twice,
      Buffer.from('a10102', 'hex'),
    ]) {
      const { status } = await ask('PATCH', '/vessels/1', { 'content-type': 'application/cbor' }, body);
      expect(status, body.toString().slice(0, 20)).to.equal(400);
    }
    const { status, text } = await ask('PATCH', '/vessels/1', { 'content-type': 'application/cbor' }, proto);
    expect(status, text).to.equal(422);
    expect(({} as Record<string, unknown>)['name']).to.equal(undefined);
  });
});

describe('forms', () => {
  const ask = askOffice({ formats: [...standardFormats, form] });
  const head = { 'content-type': 'application/x-www-form-urlencoded' };

  it('are read: dotted names, empty for null, JSON text for rows', async () => {
    const vessel =
      'name=A%26B+C&callSign=&kind=tug&built=2001&size.tonnage=1.5&size.draught=2&active=true&weight=5&operator.id=';
    const made = await ask('POST', '/vessels', head, vessel);
    expect(made.status, made.text).to.equal(201);
    expect(made.json()).to.deep.include({ name: 'A&B C', callSign: null, operator: null });
    const rows = [
      {
        name: 'F',
        kind: 'tug',
        built: '2001',
        size: { tonnage: '1.0', draught: '2' },
        active: 'false',
        weight: '1',
      },
    ];
    const fleet = `name=Form+Lines&fleet=${encodeURIComponent(JSON.stringify(rows))}`;
    expect((await ask('POST', '/operators', head, fleet)).status).to.equal(201);
  });

  it('tell what is wrong with them', async () => {
    const wrong = await ask('PATCH', '/vessels/1', head, 'nmae=x&size.draught=deep&size.depth=1');
    expect(wrong.status).to.equal(422);
    const { errors } = wrong.json() as { errors: { pointer: string; code: string }[] };
    expect(errors.map(({ pointer, code }) => `${pointer} ${code}`).sort()).to.deep.equal([
      '/nmae unknown',
      '/size.depth unknown',
      '/size/draught type',
    ]);
    for (const body of ['name=%zz', 'name=a&name=b', 'name=%ff']) {
      expect((await ask('PATCH', '/vessels/1', head, body)).status, body).to.equal(400);
    }
    expect((await ask('POST', '/operators', head, 'name=Z&fleet=[')).status).to.equal(400);
    expect((await ask('PATCH', '/vessels/1', head, '__proto__=x')).status).to.equal(422);
  });
});

describe('NDJSON', () => {
  it('has one row a line, without an envelope', async () => {
    const { text } = await askOffice()('GET', '/vessels?size=2', { accept: 'application/x-ndjson' });
    const lines = text.split('\n');
    expect(lines).to.have.length(3);
    expect(lines[2]).to.equal('');
    expect(JSON.parse(lines[1] ?? '')).to.include({ name: 'Anselma' });
  });
});

describe('a format of one’s own', () => {
  const yell: Format = {
    name: 'yell',
    mediaTypes: ['text/x-yell'],
    isText: true,
    write: ({ value }) => JSON.stringify(value()).toUpperCase(),
    read: (body, reader) => {
      if (body.length === 0) throw new MalformedBody({ name: 'silence' });
      return reader.object(JSON.parse(new TextDecoder().decode(body).toLowerCase()));
    },
  };

  it('is one object', async () => {
    const say: SayIssue = (issue) =>
      issue.reason?.name === 'silence' ? 'Nothing was yelled.' : sayIssue(issue);
    const ask = askOffice({ formats: [yell, json], policies: { say } });
    expect((await ask('GET', '/operators/1')).text).to.equal('{"ID":1,"NAME":"LANTERN BAY"}');
    const patched = await ask('PATCH', '/vessels/1', { 'content-type': 'text/x-yell' }, '{"NAME":"LOUD"}');
    expect(patched.text).to.contain('"NAME":"LOUD"');
    expect((await ask('PATCH', '/vessels/1', { 'content-type': 'text/x-yell' }, '')).text).to.contain(
      'Nothing was yelled',
    );
    expect((await ask('PATCH', '/vessels/1', JSON_BODY, '{"name":"Quiet"}')).status).to.equal(200);
    expect((await ask('GET', '/operators/1', { accept: 'application/xml' })).status).to.equal(406);
  });

  it('that cannot be loaded is found out before anything is done', async () => {
    const lost: Format = { ...yell, load: () => Promise.reject(new Error('the package is not there')) };
    const store = memoryStore(stock, stockRows);
    const ask = askOffice({ formats: [json, lost], store, log: { error: () => undefined } });
    const before = await store.count('vessel');
    const body = JSON.stringify(VESSEL);
    const sent = await ask('POST', '/vessels', { ...JSON_BODY, accept: 'text/x-yell' }, body);
    expect(sent.status).to.equal(500);
    expect(await store.count('vessel')).to.equal(before);
    expect((await ask('POST', '/vessels', JSON_BODY, body)).status).to.equal(201);
  });

  it('is bounded where it cannot stream', async () => {
    const rows = {
      ...stockRows,
      operator: Array.from({ length: 700 }, (_, i) => ({ id: i + 1, name: `O${i}`, parentId: null })),
      vessel: [],
      portCall: [],
      pilotage: [],
    };
    const small = askOffice({
      formats: [yell, ndjson],
      store: memoryStore(stock, rows),
      limits: { rows: 600 },
    });
    const { status, text } = await small('GET', '/operators');
    expect(status).to.equal(406);
    expect(text).to.contain('too long for yell');
    const lines = await small('GET', '/operators', { accept: 'application/x-ndjson' });
    expect(lines.text.split('\n')).to.have.length(701);
    const enough = askOffice({ formats: [yell], store: memoryStore(stock, rows) });
    expect(JSON.parse((await enough('GET', '/operators')).text)).to.have.length(700);
  });

  it('streams every format that can to the same rows', async () => {
    const rows = {
      ...stockRows,
      operator: Array.from({ length: 1300 }, (_, i) => ({ id: i + 1, name: `O<${i}>,"`, parentId: null })),
      vessel: [],
      portCall: [],
      pilotage: [],
    };
    const ask = askOffice({ store: memoryStore(stock, rows) });
    const all = JSON.parse((await ask('GET', '/operators')).text) as object[];
    expect(all).to.have.length(1300);
    expect((await ask('GET', '/operators')).headers.get('etag')).to.equal(null);
    const from = async (accept: string): Promise<string> => (await ask('GET', '/operators', { accept })).text;
    expect(
      (await from('application/jsonl'))
        .trim()
        .split('\n')
        .map((line) => JSON.parse(line) as object),
    ).to.deep.equal(all);
    const table = parse(await from('text/csv'), {
      columns: true,
      cast: (value, { column }) => (column === 'id' ? Number(value) : value),
    });
    expect(table).to.deep.equal(all);
    const { response } = new XMLParser().parse(await from('text/xml')) as { response: { item: object[] } };
    expect(response.item).to.deep.equal(all);
    const handle = serve(wide, { store: memoryStore(stock, stockRows) });
    const cbor = await handle(
      new Request('http://w.test/vessels', { headers: { accept: 'application/cbor' } }),
    );
    expect(decode(new Uint8Array(await cbor.arrayBuffer()))).to.have.length(5);
  });
});
