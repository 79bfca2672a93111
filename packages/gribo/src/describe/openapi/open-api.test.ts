import { expect } from 'chai';
import {
  api,
  at,
  collection,
  entity,
  input,
  integer,
  type JsonSchema,
  list,
  memoryStore,
  model,
  openApi,
  optional,
  samples,
  shape,
  text,
  unseal,
} from '../../index.js';
import { db, type Json, NewCrate, store } from '../../testing/crates.js';
import { thrownBy } from '../../testing/engines.js';

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
