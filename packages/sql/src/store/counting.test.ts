import { serve } from '@gribo/http';
import { expect } from 'chai';
import {
  amending,
  api,
  collection,
  entity,
  input,
  integer,
  model,
  type Store,
  shape,
  text,
  timestamp,
  toMany,
  toOne,
} from 'gribo';
import { everyPlace, type Kept } from '../testing/every-place.js';

const db = model(
  {
    berthing: entity('berthing', {
      id: integer().key(),
      title: text({ max: 40 }),
      version: integer().counting(),
      goneAt: timestamp()
        .nullable()
        .stored('gone_at')
        .stamped('remove', ({ now }) => now),
    }),
    mooring: entity('mooring', {
      id: integer().key(),
      berthingId: integer().stored('berthing_id'),
      seen: integer().counting(),
    }),
  },
  {
    berthing: { moorings: toMany('mooring', 'berthingId') },
    mooring: { berthing: toOne('berthing', 'berthingId') },
  },
);
const Berthing = shape(db.berthing, ({ id, title, version }) => ({ id, title, version }));
const NewMooring = input(db.mooring, ({ id }) => ({ id }));
const NewBerthing = input(db.berthing, (b) => ({
  id: b.id,
  title: b.title,
  moorings: NewMooring(b.moorings),
}));
const berthings = api({
  title: 'Berthings',
  version: '1',
  endpoints: {
    berthings: collection('/berthings', db.berthing, {
      read: Berthing,
      create: { takes: NewBerthing, returns: Berthing },
      amend: {
        takes: amending(NewBerthing, ({ title, moorings }) => ({ title, moorings })),
        returns: Berthing,
      },
      remove: true,
    }),
  },
});

const KEPT: Kept = {
  model: db,
  tables: () => ({
    berthing:
      'id integer primary key, title varchar(40) not null, version integer not null, gone_at timestamp null',
    mooring:
      'id integer primary key, berthing_id integer not null references berthing (id), seen integer not null',
  }),
  rows: {},
};

const asking = (store: Store) => {
  const handle = serve(berthings, { store });
  return async (method: string, path: string, body?: object, headers: object = {}) => {
    const type = method === 'PATCH' ? 'application/merge-patch+json' : 'application/json';
    const init = body === undefined ? {} : { body: JSON.stringify(body) };
    const request = new Request(`http://b.test${path}`, {
      method,
      headers: { 'content-type': type, ...headers },
      ...init,
    });
    const response = await handle(request);
    const said = await response.text();
    return {
      status: response.status,
      etag: response.headers.get('etag') ?? '',
      json: said === '' ? null : JSON.parse(said),
    };
  };
};

const counts = async (store: Store): Promise<void> => {
  const ask = asking(store);
  const made = await ask('POST', '/berthings', { id: 1, title: 'A', moorings: [{ id: 1 }] });
  expect([made.status, made.json.version]).to.deep.equal([201, 1]);
  const amended = await ask('PATCH', '/berthings/1', { title: 'B' });
  expect(amended.json).to.deep.equal({ id: 1, title: 'B', version: 2 });
  expect((await ask('PATCH', '/berthings/1', {})).json.version, 'nothing was changed').to.equal(2);
  expect((await ask('PATCH', '/berthings/1', { moorings: [{ id: 2 }] })).json.version).to.equal(3);
  const many = await Promise.all(
    Array.from({ length: 12 }, (_, i) => ask('PATCH', '/berthings/1', { title: `T${i}` })),
  );
  expect(
    many
      .map(({ json }) => json.version)
      .sort((a, b) => a - b)
      .at(-1),
  ).to.equal(15);
  // Whatever else a body shows, who knows an older version is refused.
  const { etag } = await ask('GET', '/berthings/1');
  const title = (await ask('GET', '/berthings/1')).json.title;
  expect((await ask('PATCH', '/berthings/1', { title })).json.version).to.equal(16);
  expect((await ask('PATCH', '/berthings/1', { title: 'C' }, { 'if-match': etag })).status).to.equal(412);
  expect((await ask('DELETE', '/berthings/1')).status).to.equal(204);
  expect((await ask('GET', '/berthings/1')).json.version, 'it is kept').to.equal(17);
};

everyPlace('columns that count changes', KEPT, (place) => {
  it('count them, whoever makes them', () => counts(place().stores[0]));
});
