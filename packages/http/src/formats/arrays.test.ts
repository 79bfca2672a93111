import { expect } from 'chai';
import { api, array, collection, entity, input, integer, list, memoryStore, model, shape, text } from 'gribo';
import { cbor, csv, form, json, ndjson, serve, xml } from '../index.js';

const db = model(
  {
    tally: entity('tally', {
      id: integer().key(),
      words: array(text()),
      counts: array(integer()).nullable(),
    }),
  },
  {},
);
const Tally = shape(db.tally, ({ id, words, counts }) => ({ id, words, counts }));
const TallyIn = input(db.tally, ({ id, words, counts }) => ({ id, words, counts }), { name: 'TallyIn' });
const office = api({
  title: 'Tallies',
  version: '1.0.0',
  endpoints: {
    tallies: collection('/tallies', db.tally, {
      list: list(Tally),
      read: Tally,
      create: { takes: TallyIn, returns: Tally },
    }),
  },
});

const ask = async (method: string, path: string, headers: Record<string, string>, body?: string) => {
  const store = memoryStore(db, { tally: [{ id: 1, words: ['a', 'b,"c"', ''], counts: null }] });
  const handle = serve(office, { store, formats: [json, csv(), xml(), cbor, ndjson, form] });
  const sent = body === undefined ? {} : { body };
  const response = await handle(new Request(`http://o.test${path}`, { method, headers, ...sent }));
  return [response.status, await response.text()] as const;
};

describe('arrays in formats', () => {
  it('are JSON in a cell, an element for each value, an array elsewhere', async () => {
    expect(await ask('GET', '/tallies', { accept: 'text/csv' })).to.deep.equal([
      200,
      'id,words,counts\r\n1,"[""a"",""b,\\""c\\"""",""""]",\r\n',
    ]);
    const [, said] = await ask('GET', '/tallies/1', { accept: 'application/xml' });
    expect(said).to.contain('<words><item>a</item><item>b,"c"</item><item/></words><counts xsi:nil="true"/>');
  });

  it('are read from what each of them writes', async () => {
    const bodies: readonly (readonly [string, string])[] = [
      ['application/json', '{"id":2,"words":["x","y z"],"counts":[3]}'],
      [
        'application/xml',
        '<tally><id>2</id><words><item>x</item><item>y z</item></words><counts><item>3</item></counts></tally>',
      ],
      ['application/x-www-form-urlencoded', 'id=2&words=["x","y%20z"]&counts=[3]'],
    ];
    for (const [type, body] of bodies) {
      const made = await ask('POST', '/tallies', { 'content-type': type, accept: 'application/json' }, body);
      expect(made, type).to.deep.equal([201, '{"id":2,"words":["x","y z"],"counts":[3]}']);
    }
    const empty = '<tally><id>2</id><words/><counts/></tally>';
    const none = await ask(
      'POST',
      '/tallies',
      { 'content-type': 'text/xml', accept: 'application/json' },
      empty,
    );
    expect(none).to.deep.equal([201, '{"id":2,"words":[],"counts":[]}']);
    for (const wrong of ['<words>x</words>', '<words><item><b/></item></words>']) {
      const sent = `<tally><id>2</id>${wrong}<counts/></tally>`;
      const [status] = await ask('POST', '/tallies', { 'content-type': 'text/xml' }, sent);
      expect(status, wrong).to.equal(422);
    }
  });
});
