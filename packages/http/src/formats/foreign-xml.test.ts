import { spawnSync } from 'node:child_process';
import { expect } from 'chai';
import {
  api,
  collection,
  entity,
  input,
  integer,
  list,
  memoryStore,
  model,
  optional,
  shape,
  text,
} from 'gribo';
import { serve } from '../index.js';

/** Names that are no element's, or nearly are one: those that Unicode calls letters or digits, and XML does not. */
const NAMES = [
  'µ',
  'a²',
  'ª',
  '①',
  '½',
  'a b',
  'a_b',
  'a-b',
  '-a',
  '1',
  'é',
  '漢',
  'a·b',
  'a:b',
  'xml',
  '🚢',
  ' ',
  'a\nb',
  '&',
  '"',
];

const TEXTS = [
  'a',
  '\r',
  'a\r\nb',
  '\n',
  '\t',
  ' a ',
  '<&>"\'',
  ']]>',
  '\u0085',
  '\u2028',
  '🚢',
  '&#13;',
  'e\u0301',
  '-- -->',
];

const columns = Object.fromEntries(NAMES.map((_name, i) => [`c${i}`, text().nullable()]));
const db = model({ thing: entity('thing', { id: integer().key().generated(), ...columns }) }, {});
// biome-ignore lint/suspicious/noExplicitAny: members are made from a list of names
const members = (row: any, make: (column: unknown) => unknown = (column) => column): any =>
  Object.fromEntries(NAMES.map((name, i) => [name, make(row[`c${i}`])]));
const Thing = shape(db.thing, (t) => ({ id: t.id, ...members(t) }), { name: 'Thing' });
const NewThing = input(db.thing, (t) => members(t, (column) => optional(column as never)), {
  name: 'NewThing',
});
const things = api({
  title: 'Things',
  version: '1',
  endpoints: {
    things: collection('/things', db.thing, {
      list: list(Thing),
      read: Thing,
      create: { takes: NewThing, returns: Thing },
    }),
  },
});

/** What Python's parser (expat) makes of a document: text of each element by its name attribute, or its name. */
const READ = `
import json, sys
import xml.etree.ElementTree as tree
root = tree.fromstring(sys.stdin.buffer.read())
print(json.dumps([{c.get('name', c.tag): c.text or '' for c in row} for row in root]))
`;

const row = (id: number, at: number): Record<string, unknown> => ({
  id,
  ...Object.fromEntries(NAMES.map((_name, i) => [`c${i}`, TEXTS[(at + i) % TEXTS.length]])),
});

describe('XML that Python reads', () => {
  const rows = TEXTS.map((_text, i) => row(i + 1, i));

  it(`has ${NAMES.length} odd names and ${TEXTS.length} odd texts, each as it was stored`, async function () {
    const handle = serve(things, { store: memoryStore(db, { thing: rows }) });
    const response = await handle(new Request('http://t.test/things', { headers: { accept: 'text/xml' } }));
    const { error, status, stdout, stderr } = spawnSync('python3', ['-c', READ], {
      input: await response.text(),
      encoding: 'utf8',
    });
    if (error !== undefined) return this.skip();
    expect(status, stderr).to.equal(0);
    const read = JSON.parse(stdout) as Record<string, string>[];
    rows.forEach((stored, i) => {
      NAMES.forEach((name, at) => {
        expect(read[i]?.[name], `${JSON.stringify(name)} of row ${i}`).to.equal(stored[`c${at}`]);
      });
    });
  });
});

describe('XML that comes in', () => {
  const send = async (body: string) => {
    const handle = serve(things, { store: memoryStore(db, {}) });
    const request = {
      method: 'POST',
      headers: { 'content-type': 'application/xml', accept: 'application/json' },
      body,
    };
    const response = await handle(new Request('http://t.test/things', request));
    return { status: response.status, json: (await response.json()) as Record<string, unknown> };
  };

  it('sets the member that is meant, whatever its name makes of it', async () => {
    const handle = serve(things, { store: memoryStore(db, { thing: [row(1, 0)] }) });
    const sent = await (
      await handle(new Request('http://t.test/things/1', { headers: { accept: 'text/xml' } }))
    ).text();
    const { status, json } = await send(sent.replace('<id>1</id>', ''));
    expect(status, JSON.stringify(json)).to.equal(201);
    for (const [i, name] of NAMES.entries()) expect(json[name], name).to.equal(row(1, 0)[`c${i}`]);
    const one = await send('<r><a_b>under</a_b></r>');
    expect([one.json['a_b'], one.json['a b']]).to.deep.equal(['under', null]);
  });

  it('is refused where it is not well-formed (XML 1.0 and its namespaces)', async () => {
    const bad = [
      '<r><é>]]></é></r>',
      '<r><é>\u0001</é></r>',
      '<r><é>&#1;</é></r>',
      '<r><é>&nope;</é></r>',
      '<r><é a="<"/></r>',
      '<r><!-- a -- b --><é/></r>',
      '<r><x:é>a</x:é></r>',
      '<r><é></r></é>',
      '<r><é a="1" a="2"/></r>',
      '<r/><r/>',
      '<r>',
      'text',
      '',
      '<r><é a=1/></r>',
      '<r>&#x110000;</r>',
    ];
    for (const body of bad) expect((await send(body)).status, body).to.equal(400);
  });

  it('is taken where it is well-formed, however it is written', async () => {
    const nil = 'http://www.w3.org/2001/XMLSchema-instance';
    const good: readonly (readonly [string, unknown])[] = [
      ['<?xml version="1.0"?><?style x?><!-- new --><r><?inside?><é>a</é></r><!-- end -->', 'a'],
      ['<r xmlns="http://n.test/"><é>a</é></r>', 'a'],
      ['<n:r xmlns:n="http://n.test/"><n:é>a</n:é></n:r>', 'a'],
      ['<r><é><![CDATA[AT&amp;T]]></é></r>', 'AT&amp;T'],
      ['<r><é><![CDATA[<!DOCTYPE html>]]></é></r>', '<!DOCTYPE html>'],
      ['<r><é>AT&amp;T</é></r>', 'AT&T'],
      ['<r><é>a\r\nb&#13;c</é></r>', 'a\nb\rc'],
      [`<r xmlns:i="${nil}"><é i:nil="true"/></r>`, null],
      [`<r xmlns:xsi="${nil}"><é xsi:nil="1"/></r>`, null],
      [`<r xmlns:i="http://n.test/"><é i:nil="true">a</é></r>`, 'a'],
      ['<r><é></é></r>', ''],
      ['\ufeff<r><é>a</é></r>', 'a'],
    ];
    for (const [body, expected] of good) {
      const { status, json } = await send(body);
      expect([status, json['é']], body).to.deep.equal([201, expected]);
    }
    expect((await send('<!DOCTYPE r [<!ENTITY a "b">]><r><é>&a;</é></r>')).status).to.equal(400);
  });
});
