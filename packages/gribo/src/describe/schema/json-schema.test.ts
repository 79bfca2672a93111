import { expect } from 'chai';
import {
  entity,
  integer,
  type JsonSchema,
  jsonSchema,
  list,
  model,
  RequestError,
  shape,
  some,
  text,
} from '../../index.js';
import { Crate, db, type Json, Line, members, NewCrate } from '../../testing/crates.js';
import { thrownBy } from '../../testing/engines.js';

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
