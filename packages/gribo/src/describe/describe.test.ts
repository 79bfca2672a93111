import { expect } from 'chai';
import { SourceWriter } from '../codegen/source-writer.js';
import {
  all,
  amending,
  any,
  api,
  asked,
  asNumber,
  at,
  audience,
  bigint,
  bytes,
  clientSource,
  collection,
  contractOf,
  decimal,
  deprecated,
  entity,
  equals,
  given,
  holds,
  input,
  integer,
  isNull,
  type JsonSchema,
  json,
  jsonSchema,
  list,
  masked,
  memoryStore,
  model,
  not,
  oneOf,
  oneOfThese,
  openApi,
  optional,
  page,
  preset,
  RequestError,
  recursive,
  samples,
  serializerSource,
  shape,
  some,
  text,
  time,
  timestamp,
  toMany,
  toOne,
  typesSource,
  unlessNull,
  unseal,
  wrap,
} from '../index.js';
import { SAMPLED_KINDS } from '../sample/kinds.js';
import { declarationError, thrownBy } from '../testing/engines.js';
import { literalSource } from '../write/modules/literal-source.js';
import { shownAs } from './kinds.js';

const db = model(
  {
    crate: entity('crate', {
      id: integer().key().generated(),
      name: text({ min: 1, max: 60, pattern: /^[A-Z]/ })
        .about('What is painted on it.')
        .example('Lamps'),
      loose: text({ pattern: /x/i }),
      lax: text({ pattern: /^[\w-.]+$/ }),
      kind: oneOf('box', 'bag').nullable(),
      weight: bigint({ min: 0n }).example(25n),
      price: decimal(8, 2),
      made: timestamp().example(new Date('2026-03-01T06:30:00Z')),
      clock: time(),
      photo: bytes({ max: 4 }).nullable(),
      extra: json<unknown>(),
      phone: text().nullable().sealed('personal'),
      partOfId: integer().nullable(),
    }),
  },
  { crate: { partOf: toOne('crate', 'partOfId'), parts: toMany('crate', 'partOfId') } },
);

const Line = shape(db.crate, (c) => ({ id: c.id, name: c.name }), {
  name: 'Line',
  about: 'A crate in a list.',
});

const Crate = shape(
  db.crate,
  (c) => ({
    ...Line(c),
    loose: c.loose,
    lax: c.lax,
    kind: at({ list: c.kind, otherwise: c.kind }),
    weight: c.weight,
    pounds: asNumber(c.weight),
    price: c.price,
    made: c.made,
    clock: c.clock,
    photo: unlessNull(c.photo),
    extra: unlessNull(c.extra),
    phone: unseal('office', c.phone),
    hint: masked(c.phone),
    office: given(audience('office'), { made: c.made }),
    more: given(asked('more'), c.clock),
    less: given(not(asked('more')), c.clock),
    old: deprecated(c.clock, { since: '2026-01-01', sunset: '2026-12-31', instead: 'made' }),
    partOf: Line(c.partOf),
    parts: Line(c.parts),
  }),
  { name: 'Crate' },
);

const Tree = recursive(db.crate, { depth: 3, name: 'Tree' }, (c, self) => ({
  id: c.id,
  parts: self(c.parts),
}));

const NewCrate = input(
  db.crate,
  (c) => ({
    name: c.name,
    kind: preset(c.kind, 'box'),
    size: { weight: c.weight, price: c.price },
    by: optional({ phone: c.phone, photo: c.photo }),
    may: { kilos: optional(c.partOfId) },
  }),
  { name: 'NewCrate', about: 'What a crate is entered with.' },
);

const store = api({
  title: 'Store',
  version: '1.0.0',
  audiences: ['public', 'office'],
  endpoints: {
    crates: collection('/crates', db.crate, {
      list: page(Line, { size: 5, max: 50 }),
      read: Crate,
      create: { takes: NewCrate, returns: Crate },
      amend: { takes: amending(NewCrate, ({ name, ...rest }) => rest, { name: 'EditCrate' }) },
      remove: true,
      filters: (c) => ({ name: equals(c.name), kinds: oneOfThese(c.kind), light: isNull(c.photo) }),
      sort: ['name'],
      about: { read: 'One crate, with its parts.' },
    }),
    trees: collection('/trees', db.crate, {
      list: wrap(list(Tree), (trees, info) => ({ trees, count: info.total })),
      audiences: ['office'],
      deprecated: { since: '2026-01-01', sunset: '2026-12-31', instead: '/crates' },
    }),
  },
});

type Json = Record<string, JsonSchema>;

const members = (schema: JsonSchema, name: string): Json =>
  ((schema['$defs'] as Json)[name] as JsonSchema)['properties'] as Json;

describe('contractOf', () => {
  const contract = contractOf(store);
  const memberOf = (shapeName: string, name: string) =>
    contract.shapes[shapeName]?.members.find((member) => member.name === name);

  it('names each content once, with what is different behind the name', () => {
    expect(Object.keys(contract.shapes)).to.deep.equal([
      'Line.page',
      'Line',
      'Crate',
      'Crate.office',
      'Tree.wrap',
      'Tree',
      'Tree.2',
      'Tree.3',
    ]);
    expect(Object.keys(contract.inputs)).to.deep.equal(['NewCrate', 'EditCrate']);
  });

  it('says what each audience gets', () => {
    const read = contract.endpoints.find(({ name }) => name === 'crates.read');
    expect(read?.returns).to.deep.equal({
      many: false,
      variants: [
        { audiences: [null, 'public'], shape: 'Crate' },
        { audiences: ['office'], shape: 'Crate.office' },
      ],
    });
    const names = (shapeName: string) => contract.shapes[shapeName]?.members.map(({ name }) => name) ?? [];
    expect(names('Crate.office').filter((name) => !names('Crate').includes(name))).to.deep.equal([
      'phone',
      'office',
    ]);
    expect(contract.endpoints.find(({ name }) => name === 'trees.list')).to.include({ entity: 'crate' });
  });

  it('says when a member is there, and whether it may be null', () => {
    expect(memberOf('Crate', 'more')).to.deep.equal({
      name: 'more',
      type: { kind: 'time' },
      when: 'asked',
      asks: ['more'],
    });
    expect(memberOf('Crate', 'less')).to.include({ when: 'some' });
    expect(memberOf('Crate', 'photo')).to.include({ when: 'some' }).and.not.have.property('nullable');
    expect(memberOf('Crate', 'extra')).to.include({ when: 'some' });
    expect(memberOf('Crate', 'partOf')).to.include({ nullable: true });
    expect(memberOf('Crate', 'parts')).to.deep.equal({ name: 'parts', type: { kind: 'list', of: 'Line' } });
    expect(contract.endpoints.find(({ name }) => name === 'crates.read')?.asks).to.deep.equal(['more']);
  });

  it('knows what every page says', () => {
    expect(memberOf('Line.page', 'page')?.type).to.deep.equal({
      kind: 'group',
      members: ['number', 'size', 'total', 'pages'].map((name) => ({
        name,
        type: { kind: 'integer', min: 0 },
      })),
    });
    expect(memberOf('Tree.wrap', 'count')).to.include({ nullable: true });
  });

  it('knows what a page by cursor says, and what is said of no page', () => {
    const memberIn = (body: Parameters<typeof jsonSchema>[0], name: string): JsonSchema | undefined => {
      const { $ref, $defs } = jsonSchema(body) as { $ref: string; $defs: Json };
      const { properties = {} } = $defs[$ref.replace('#/$defs/', '')] ?? {};
      return (properties as Json)[name];
    };
    const byCursor = memberIn(page(Line, { by: 'cursor' }), 'page')?.['properties'] as Json;
    expect(byCursor['size']?.['type']).to.equal('integer');
    expect(byCursor['next']?.['type']).to.deep.equal(['string', 'null']);
    const wrapped = wrap(page(Line, { totals: false }), (items, { number, next, total }) => ({
      items,
      number,
      next,
      total,
    }));
    expect(memberIn(wrapped, 'number')?.['type']).to.equal('integer');
    expect(memberIn(wrapped, 'next')?.['type']).to.deep.equal(['string', 'null']);
    expect(memberIn(wrapped, 'total')?.['type']).to.deep.equal(['integer', 'null']);
  });

  it('tells what has to be asked for from what the row decides', () => {
    const odd = (id: number): boolean => id % 2 === 1;
    const Maybe = shape(db.crate, (c) => ({
      both: given(all(asked('x'), holds([c.id], odd)), c.id),
      either: given(any(asked('x'), holds([c.id], odd)), c.id),
      never: given(all(asked('x'), not(asked('x'))), c.id),
    }));
    const maybe = api({
      title: 'Maybe',
      version: '1.0.0',
      endpoints: { one: collection('/one', db.crate, { read: Maybe }) },
    });
    const [one] = Object.values(contractOf(maybe).shapes);
    expect(one?.members.map(({ name, when }) => [name, when])).to.deep.equal([
      ['both', 'asked'],
      ['either', 'some'],
      ['never', 'asked'],
    ]);
  });

  it('says what inputs take', () => {
    expect(
      contract.inputs['NewCrate']?.members.map(({ name, when, nullable }) => [name, when, nullable]),
    ).to.deep.equal([
      ['name', undefined, undefined],
      ['kind', 'preset', true],
      ['size', undefined, undefined],
      ['by', 'optional', true],
      ['may', 'optional', true],
    ]);
    expect(contract.inputs['EditCrate']).to.deep.include({ amends: true, fixed: ['name'] });
    const optionals = contract.inputs['EditCrate']?.members.map(({ when }) => when);
    expect(new Set(optionals)).to.deep.equal(new Set(['optional']));
  });

  it('is plain JSON, frozen, and the same each time', () => {
    expect(JSON.parse(JSON.stringify(contract))).to.deep.equal(contract);
    expect(contractOf(store)).to.equal(contract);
    expect(Object.isFrozen(contract.shapes['Line']?.members)).to.equal(true);
  });
});

describe('jsonSchema', () => {
  it('states limits, formats, nulls, descriptions, examples and deprecations', () => {
    const schema = jsonSchema(Crate, { endpoint: 'crates.read' });
    expect(schema['$schema']).to.equal('https://json-schema.org/draft/2020-12/schema');
    const of = members(schema, 'Crate');
    expect(of['name']).to.deep.equal({
      type: 'string',
      minLength: 1,
      maxLength: 60,
      pattern: '^[A-Z]',
      description: 'What is painted on it.',
      examples: ['Lamps'],
    });
    // A pattern with flags cannot be said, nor one that is none in Unicode mode.
    expect(of['loose']).to.deep.equal({ type: 'string' });
    expect(of['lax']).to.deep.equal({ type: 'string' });
    expect(of['kind']).to.deep.equal({ type: ['string', 'null'], enum: ['box', 'bag', null] });
    expect(of['weight'])
      .to.include({ type: 'string' })
      .and.to.deep.include({ examples: ['25'] });
    expect(of['pounds']).to.deep.equal({ type: 'integer', examples: [25] });
    expect(of['made']).to.deep.equal({
      type: 'string',
      format: 'date-time',
      examples: ['2026-03-01T06:30:00.000Z'],
    });
    expect(of['photo']).to.deep.equal({ type: 'string', contentEncoding: 'base64', maxLength: 8 });
    expect(of['old']).to.deep.include({ deprecated: true });
    expect(of['old']?.['description']).to.contain(
      'Deprecated since 2026-01-01, may be gone after 2026-12-31; use made',
    );
    expect(of['more']?.['description']).to.contain('Only where `more` is asked for.');
    expect(of['partOf']).to.deep.equal({ anyOf: [{ $ref: '#/$defs/Line' }, { type: 'null' }] });
    expect(of).not.to.have.property('phone');
    expect((schema['$defs'] as Json)['Line']).to.include({ description: 'A crate in a list.' });
  });

  it('limits a list only where the selection does', () => {
    const Few = shape(
      db.crate,
      (c) => ({ few: Line(some(c.parts, { limit: 3 })), all: Line(some(c.parts, { sort: ['name'] })) }),
      { name: 'Few' },
    );
    const of = members(jsonSchema(Few), 'Few');
    expect(of['few']).to.deep.equal({ type: 'array', items: { $ref: '#/$defs/Line' }, maxItems: 3 });
    expect(of['all']).to.deep.equal({ type: 'array', items: { $ref: '#/$defs/Line' } });
  });

  it('is of what was asked, where that is said', () => {
    const plain = members(jsonSchema(Crate, { asked: [] }), 'Crate');
    expect(plain['less']?.['description']).to.equal('A time of day, such as 06:30:00.');
    expect(plain).not.to.have.property('more');
    const schema = jsonSchema(list(Crate), { asked: ['more'], fields: ['id', 'more'] });
    expect(schema['items']).to.deep.equal({ $ref: '#/$defs/Crate' });
    expect(Object.keys(members(schema, 'Crate'))).to.deep.equal(['id', 'more']);
    expect(thrownBy(() => jsonSchema(Crate, { fields: ['idd'] }))).to.be.instanceOf(RequestError);
  });

  it('counts characters, as readers do', () => {
    const named = model({ one: entity('one', { id: integer().key(), name: text({ min: 3, max: 5 }) }) }, {});
    const Named = shape(named.one, (o) => ({ name: o.name }));
    expect(members(jsonSchema(Named), 'one')['name']).to.deep.equal({
      type: 'string',
      minLength: 3,
      maxLength: 5,
    });
  });

  it('closes responses where that is wanted, and requests always', () => {
    const open = (jsonSchema(Line)['$defs'] as Json)['Line'];
    expect(open).not.to.have.property('unevaluatedProperties');
    const closed = (jsonSchema(Line, {}, { closed: true })['$defs'] as Json)['Line'];
    expect(closed).to.include({ unevaluatedProperties: false });
    const taken = (jsonSchema(NewCrate)['$defs'] as Json)['NewCrate'];
    expect(taken).to.deep.include({ additionalProperties: false, required: ['name', 'size'] });
    const { price } = (members(jsonSchema(NewCrate), 'NewCrate')['size'] as JsonSchema)['properties'] as Json;
    expect(price?.['pattern']).to.equal('^-?(?:0|[1-9]\\d{0,5})(?:\\.\\d{1,2})?$');
  });
});

describe('openApi', () => {
  const rows = memoryStore(db, samples(db, { rows: 3 }));
  type Operation = { readonly [name: string]: JsonSchema & { readonly length?: number } };
  const operation = (document: JsonSchema, path: string, method: string) =>
    ((document['paths'] as Json)[path] as Json)[method] as unknown as Operation;
  const codes = (one: Operation) => Object.keys(one['responses'] ?? {});

  it('describes every operation with its problems', () => {
    const document = openApi(store);
    expect(Object.keys(document['paths'] as Json)).to.deep.equal(['/crates', '/crates/{id}', '/trees']);
    expect(codes(operation(document, '/crates/{id}', 'get'))).to.deep.equal([
      '200',
      '304',
      '400',
      '404',
      '406',
      'default',
    ]);
    expect(codes(operation(document, '/crates', 'post'))).to.include.members([
      '201',
      '409',
      '413',
      '415',
      '422',
    ]);
    expect(codes(operation(document, '/crates/{id}', 'patch'))).to.include.members(['204', '412']);
    expect(codes(operation(document, '/crates/{id}', 'delete'))).to.deep.equal([
      '204',
      '400',
      '404',
      '409',
      '412',
      'default',
    ]);
    const trees = operation(document, '/trees', 'get');
    expect(trees).to.deep.include({ deprecated: true, 'x-audiences': ['office'] });
    expect(codes(trees)).to.include('403');
    expect(operation(document, '/crates/{id}', 'get')).to.include({
      description: 'One crate, with its parts.',
    });
  });

  it('calls each operation by a plain name of its own', () => {
    const read = collection('/a', db.crate, {
      read: shape(db.crate, ({ id }) => ({ id }), { name: 'Only' }),
    });
    const other = collection('/b', db.crate, {
      read: shape(db.crate, ({ id }) => ({ id }), { name: 'Only' }),
    });
    const odd = api({ title: 'Odd', version: '1', endpoints: { 'odd things': read, odd_things: other } });
    const ids = ['/a/{id}', '/b/{id}'].map((path) => operation(openApi(odd), path, 'get')['operationId']);
    expect(ids).to.deep.equal(['odd_things.read', 'odd_things.read.2']);
  });

  it('describes what a 415 names, and where a deprecated list leads', () => {
    const document = openApi(store);
    const named = (path: string, method: string, code: string): readonly string[] => {
      const responses = operation(document, path, method)['responses'] as unknown as Record<
        string,
        { headers?: object }
      >;
      return Object.keys(responses[code]?.headers ?? {});
    };
    expect(named('/crates', 'post', '415')).to.deep.equal(['Accept']);
    expect(named('/crates/{id}', 'patch', '415')).to.deep.equal(['Accept-Patch']);
    expect(named('/crates', 'post', '422')).to.deep.equal([]);
    expect(named('/trees', 'get', '200')).to.include.members(['Link', 'Deprecation', 'Sunset']);
  });

  it('says what a line is, since 3.2', () => {
    const ndjson = { name: 'ndjson', mediaTypes: ['application/x-ndjson'], onlyLists: true, write: true };
    const csv = { name: 'csv', mediaTypes: ['text/csv'], onlyLists: true, isFlat: true, write: true };
    const media = (specification: '3.1' | '3.2') => {
      const document = openApi(store, { specification, formats: [ndjson, csv] });
      expect(document['openapi']).to.equal(`${specification}.0`);
      const responses = operation(document, '/crates', 'get')['responses'] as unknown as Record<
        string,
        { content: Json }
      >;
      return responses['200']?.content as Json;
    };
    expect(media('3.1')['application/x-ndjson']).to.deep.equal({
      schema: { type: 'string', description: 'One line for each row, as in the JSON list.' },
    });
    // A page's lines are its rows; what the audiences see of them is the same.
    expect(media('3.2')['application/x-ndjson']).to.deep.equal({
      itemSchema: { $ref: '#/components/schemas/Line' },
    });
    expect(media('3.2')['text/csv']).to.have.keys('schema');
  });

  it('describes lists that are taken, in each format that reads them', () => {
    const imports = api({
      title: 'Imports',
      version: '1',
      endpoints: { crates: collection('/crates', db.crate, { create: { takes: list(NewCrate) } }) },
    });
    const ndjson = { name: 'ndjson', mediaTypes: ['application/x-ndjson'], onlyLists: true, readRows: true };
    const csv = { name: 'csv', mediaTypes: ['text/csv'], onlyLists: true, isFlat: true, readRows: true };
    const json = { name: 'json', mediaTypes: ['application/json'], read: true, readRows: true };
    const xml = { name: 'xml', mediaTypes: ['text/xml'], read: true };
    const content = (specification: '3.1' | '3.2') => {
      const options = { specification, formats: [json, xml, csv, ndjson], examples: rows };
      const { requestBody } = operation(openApi(imports, options), '/crates', 'post');
      return requestBody?.['content'] as unknown as Json;
    };
    const $ref = '#/components/schemas/NewCrate';
    expect(Object.keys(content('3.1'))).to.deep.equal([
      'application/json',
      'text/csv',
      'application/x-ndjson',
    ]);
    expect(content('3.1')['application/json']?.['schema']).to.deep.equal({ type: 'array', items: { $ref } });
    expect(content('3.1')['application/json']?.['example']).to.be.an('array').with.length(1);
    expect(content('3.1')['application/x-ndjson']).to.have.nested.property('schema.type', 'string');
    expect(content('3.2')['application/x-ndjson']).to.deep.equal({ itemSchema: { $ref } });
  });

  it('shows no example that tools would take for a reference', () => {
    const odd = model({ odd: entity('odd', { id: integer().key(), at: text().example('#/nowhere') }) }, {});
    const Odd = shape(odd.odd, (o) => ({ id: o.id, $ref: o.at, also: { $ref: o.at } }));
    const Plain = shape(odd.odd, (o) => ({ id: o.id, ref: o.at }));
    const api_ = api({
      title: 'Odd',
      version: '1',
      endpoints: {
        odd: collection('/odd', odd.odd, { read: Odd }),
        plain: collection('/plain', odd.odd, { read: Plain }),
      },
    });
    const document = openApi(api_, { examples: memoryStore(odd, samples(odd, { rows: 1 })) });
    expect(JSON.stringify(operation(document, '/odd/{id}', 'get'))).not.to.contain('#/nowhere');
    expect(JSON.stringify(operation(document, '/plain/{id}', 'get'))).to.contain('#/nowhere');
  });

  it('says whom each schema is for, and shows exactly its members', () => {
    const document = openApi(store, { examples: rows });
    const schemas = (document['components'] as Json)['schemas'] as Json;
    const variants = schemas['crates.read']?.['anyOf'] as unknown as readonly JsonSchema[];
    expect(variants.map((one) => [one['$ref'], one['x-audiences']])).to.deep.equal([
      ['#/components/schemas/Crate', ['public']],
      ['#/components/schemas/Crate.office', ['office']],
    ]);
    const responses = operation(document, '/crates/{id}', 'get')['responses'] as unknown as Record<
      string,
      { content: Record<string, { examples: Record<string, { value: object }> }> }
    >;
    const examples = responses['200']?.content['application/json']?.examples ?? {};
    expect(Object.keys(examples)).to.deep.equal(['public', 'office']);
    expect(examples['public']?.value).not.to.have.any.keys('phone', 'office', 'more');
    expect(examples['office']?.value).to.include.keys('phone', 'office');
    const body = operation(document, '/crates', 'post')['requestBody'] as unknown as {
      content: Record<string, { example: object }>;
    };
    expect(body.content['application/json']?.example).to.include({ name: 'Lamps' });
  });

  it('shows null in a body where a value has to be there, and leaves out what may be', () => {
    const Taken = input(db.crate, (c) => ({ kind: c.kind, photo: optional(c.photo), deep: { by: c.phone } }));
    const one = api({
      title: 'One',
      version: '1.0.0',
      endpoints: { crates: collection('/crates', db.crate, { create: { takes: Taken } }) },
    });
    const own = { crate: [{ id: 1, kind: null, photo: null, phone: null }] };
    const document = openApi(one, { examples: memoryStore(db, samples(db, { own })) });
    const body = operation(document, '/crates', 'post')['requestBody'] as unknown as {
      content: Record<string, { example: object }>;
    };
    expect(body.content['application/json']?.example).to.deep.equal({ kind: null, deep: { by: null } });
  });

  it('tells an audience of what it sees and of nothing else', () => {
    const text = JSON.stringify(openApi(store, { audience: 'public', examples: rows }));
    expect(text).not.to.contain('office');
    expect(text).not.to.contain('/trees');
    expect(JSON.stringify(openApi(store, { audience: null }))).not.to.contain('office');
    expect(JSON.stringify(openApi(store, { audience: 'office' }))).to.contain('phone');
    expect(String(thrownBy(() => openApi(store, { audience: 'offic' })))).to.contain(
      'Did you mean "office"?',
    );
  });

  it('keeps endpoints, shapes and problems apart where they are called alike', () => {
    const Alike = shape(
      db.crate,
      (c) => ({ id: at({ list: c.id, read: c.name }), phone: unseal('office', c.phone) }),
      { name: 'Crate' },
    );
    const Problem = shape(db.crate, (c) => ({ id: c.id }), { name: 'Problem' });
    const alike = api({
      title: 'Alike',
      version: '1.0.0',
      audiences: ['office'],
      endpoints: {
        Crate: collection('/crates', db.crate, { list: list(Alike), read: Alike }),
        others: collection('/others', db.crate, { read: Problem }),
      },
    });
    const document = openApi(alike);
    const schemas = (document['components'] as Json)['schemas'] as Json;
    expect(Object.keys(schemas)).to.deep.equal([
      'Crate',
      'Crate.office',
      'Crate.read',
      'Crate.read.office',
      'Problem',
      'Crate.list',
      'Crate.read.sent',
      'Problem.sent',
    ]);
    expect(schemas['Crate.read']?.['type']).to.equal('object');
    expect(JSON.stringify(schemas['Crate.read.sent'])).to.contain('"#/components/schemas/Crate.read"');
    expect(schemas['Problem.sent']).to.include({ description: 'What went wrong (RFC 9457).' });
  });

  it('takes what it cannot know', () => {
    const document = openApi(store, {
      info: { description: 'Crates.' },
      servers: [{ url: 'https://store.test' }],
      securitySchemes: { token: { type: 'http', scheme: 'bearer' } },
      security: [{ token: [] }],
      formatParameter: true,
    });
    expect(document['info']).to.deep.equal({ title: 'Store', version: '1.0.0', description: 'Crates.' });
    expect(document['servers']).to.deep.equal([{ url: 'https://store.test' }]);
    expect(document['security']).to.deep.equal([{ token: [] }]);
    expect(document['components']).to.have.property('securitySchemes');
    const parameters = operation(document, '/crates', 'get')[
      'parameters'
    ] as unknown as readonly JsonSchema[];
    expect(parameters.find((one) => one['name'] === 'kinds')).to.deep.include({
      explode: false,
      schema: { type: 'array', items: { type: 'string', enum: ['box', 'bag'] } },
    });
    expect(parameters.find((one) => one['name'] === 'light')).to.deep.include({
      schema: { type: 'boolean' },
    });
    expect(parameters.map((one) => one['name'])).to.deep.equal([
      'name',
      'kinds',
      'light',
      'size',
      'page',
      'sort',
      'fields',
      'format',
      'If-None-Match',
    ]);
  });
});

describe('the sources of types and clients', () => {
  it('have an interface for each shape and input, and maps from endpoints', () => {
    const source = typesSource(contractOf(store));
    expect(source).to.contain('export interface CrateOffice {').and.contain('export interface NewCrate {');
    expect(source).to.contain('  /** What is painted on it. */\n  readonly name: string;');
    expect(source).to.contain('readonly kind: "box" | "bag" | null;');
    expect(source).to.contain(
      '  /** A time of day, `HH:MM:SS`. Only where `more` is asked for. */\n  readonly more?: string;',
    );
    expect(source).to.contain(
      'readonly "crates.read": { readonly "": Crate; readonly public: Crate; readonly office: CrateOffice };',
    );
    expect(source).not.to.match(/^import/m);
    expect(clientSource(contractOf(store), './api-types.js'))
      .to.contain('"crates.amend": ["PATCH", "/crates/{id}", "body"],')
      .and.contain('from "./api-types.js";');
  });
});

describe('serializerSource', () => {
  it('lists the members whose functions no module exports', () => {
    const Named = shape(db.crate, (c) => ({ id: c.id, by: given(audience('office'), c.made), even: c.id }));
    expect(serializerSource(Named)).to.match(/^import\{standAlone/);
    const via = model(
      {
        crate: entity('crate', {
          id: integer()
            .key()
            .via((row) => row['key']),
        }),
      },
      {},
    );
    const Bad = shape(via.crate, (c) => ({ id: c.id }), { name: 'Bad' });
    expect(declarationError(() => serializerSource(Bad))).to.contain(
      'Bad.id: it calls a function that no module exports',
    );
  });

  it('writes plain values as they are, whatever is in them', () => {
    const value = {
      ...JSON.parse('{"__proto__": {"x": 1}, "a\\"b": [null, true, -0.5]}'),
      when: new Date(5),
      how: /a"b/i,
      raw: Uint8Array.of(1, 2),
      big: 9n,
      none: undefined,
    };
    const source = literalSource(new SourceWriter(), value, () => 'null');
    expect(new Function(`return ${source}`)()).to.deep.equal(value);
    expect(Object.keys(new Function(`return ${source}`)())).to.deep.equal(Object.keys(value));
  });

  it('takes names from outside as text only', () => {
    const evil = '"];globalThis.hit=1;//';
    const Evil = shape(db.crate, (c) => ({ [evil]: c.id, id: c.id }) as { id: typeof c.id }, { name: 'E' });
    expect(serializerSource(Evil)).to.contain(JSON.stringify(evil)).and.not.contain(`"${evil}`);
  });
});

describe('what JSON shows of each kind', () => {
  it('has words of its own', () => {
    const words = SAMPLED_KINDS.map(shownAs);
    expect(new Set(words)).to.have.lengthOf(SAMPLED_KINDS.length);
    expect(shownAs('bigint')).to.equal('a whole number as text');
    expect(shownAs('bytes')).to.equal('bytes as base64');
  });
});

describe('documents', () => {
  const plain = model({ thing: entity('thing', { id: integer().key(), name: text(), note: text() }) }, {});

  it('say whom each of several forms of a response is for', () => {
    const Thing = shape(
      plain.thing,
      (t) => ({
        id: t.id,
        name: given(audience('agent', 'office'), t.name),
        note: given(audience('office'), t.note),
      }),
      { name: 'Thing' },
    );
    const things = api({
      title: 'Things',
      version: '1',
      audiences: ['agent', 'office', 'guest'],
      endpoints: { things: collection('/things', plain.thing, { read: Thing }) },
    });
    const { components } = openApi(things) as {
      components: { schemas: Record<string, { anyOf?: { description: string }[] }> };
    };
    const texts = Object.values(components.schemas).flatMap(({ anyOf = [] }) =>
      anyOf.map(({ description }) => description),
    );
    expect(texts.sort()).to.deep.equal(['For agent.', 'For guest and everybody else.', 'For office.']);
    const two = api({
      title: 'Things',
      version: '1',
      audiences: ['agent', 'office'],
      endpoints: { things: collection('/things', plain.thing, { read: Thing }) },
    });
    const { components: others } = openApi(two) as { components: typeof components };
    const nobody = Object.values(others.schemas).flatMap(({ anyOf = [] }) =>
      anyOf.map(({ description }) => description),
    );
    expect(nobody).to.include('For callers of no audience.');
  });

  it('name the headers of a response where it has some, and only there', () => {
    const Thing = shape(plain.thing, (t) => ({ id: t.id }), { name: 'Thing' });
    const NewThing = input(plain.thing, (t) => ({ id: t.id, name: t.name, note: t.note }), {
      name: 'NewThing',
    });
    const things = api({
      title: 'Things',
      version: '1',
      endpoints: {
        things: collection('/things', plain.thing, {
          list: page(Thing, {}),
          read: Thing,
          create: { takes: NewThing, returns: Thing },
          remove: true,
        }),
      },
    });
    const { paths } = openApi(things) as {
      paths: Record<string, Record<string, { responses: Record<string, { headers?: object }> }>>;
    };
    const headers = (path: string, method: string, status: string): readonly string[] | null => {
      const told = paths[path]?.[method]?.responses[status]?.headers;
      return told === undefined ? null : Object.keys(told);
    };
    expect(headers('/things', 'post', '201')).to.include('Location');
    expect(headers('/things/{id}', 'get', '200')).to.include('ETag');
    expect(headers('/things/{id}', 'delete', '204')).to.equal(null);
  });

  it('have the parameter for a format only where something is sent', () => {
    const Thing = shape(plain.thing, (t) => ({ id: t.id }), { name: 'Thing' });
    const things = api({
      title: 'Things',
      version: '1',
      endpoints: { things: collection('/things', plain.thing, { read: Thing, remove: true }) },
    });
    const { paths } = openApi(things, { formatParameter: true }) as {
      paths: Record<string, Record<string, { parameters?: { name: string }[] }>>;
    };
    const named = (method: string): readonly string[] =>
      (paths['/things/{id}']?.[method]?.parameters ?? []).map(({ name }) => name);
    expect(named('get')).to.include('format');
    expect(named('delete')).to.not.include('format');
  });

  it('name the fields of a form: dotted in groups and to-one rows, JSON text for lists', () => {
    const linked = model(
      {
        owner: entity('owner', { id: integer().key().generated(), name: text() }),
        boat: entity('boat', {
          id: integer().key().generated(),
          name: text().nullable(),
          size: integer(),
          ownerId: integer(),
        }),
      },
      { owner: { boats: toMany('boat', 'ownerId') }, boat: { owner: toOne('owner', 'ownerId') } },
    );
    const NewBoat = input(linked.boat, (b) => ({ name: b.name }), { name: 'NewBoat' });
    const NewOwner = input(linked.owner, (o) => ({ name: o.name, boats: optional(NewBoat(o.boats)) }), {
      name: 'NewOwner',
    });
    const NewShip = input(
      linked.boat,
      (b) => ({ name: b.name, more: { size: b.size, deep: { owner: NewOwner(b.owner) } } }),
      { name: 'NewShip' },
    );
    const boats = api({
      title: 'Boats',
      version: '1',
      endpoints: { boats: collection('/boats', linked.boat, { create: { takes: NewShip } }) },
    });
    const form = {
      name: 'form',
      mediaTypes: ['application/x-www-form-urlencoded'],
      isFlat: true,
      read: () => null,
    };
    const { paths } = openApi(boats, { formats: [form as never] }) as {
      paths: Record<
        string,
        { post: { requestBody: { content: Record<string, { schema: { properties: object } }> } } }
      >;
    };
    const { properties } =
      paths['/boats']?.post.requestBody.content['application/x-www-form-urlencoded']?.schema ?? {};
    expect(properties).to.deep.equal({
      name: { type: ['string', 'null'] },
      'more.size': { type: 'integer' },
      'more.deep.owner.name': { type: 'string' },
      'more.deep.owner.boats': { type: 'string', description: 'JSON text.' },
    });
  });

  it('give shapes that are called like something of the module another name', () => {
    for (const name of ['Audience', 'Responses', 'Requests', 'PathParameters', 'Queries']) {
      const Thing = shape(plain.thing, (t) => ({ id: t.id }), { name });
      const things = api({
        title: 'Things',
        version: '1',
        endpoints: { things: collection('/things', plain.thing, { read: Thing }) },
      });
      expect(typesSource(contractOf(things)), name).to.contain(`export interface ${name}2 `);
    }
  });
});
