import { expect } from 'chai';
import {
  api,
  audience,
  collection,
  contractOf,
  entity,
  given,
  input,
  integer,
  model,
  openApi,
  optional,
  page,
  shape,
  text,
  toMany,
  toOne,
  typesSource,
} from '../../index.js';

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
