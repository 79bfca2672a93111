import {
  api,
  collection,
  entity,
  input,
  integer,
  list,
  memoryStore,
  model,
  shape,
  text,
  timestamp,
  toMany,
  toOne,
} from 'gribo';

/** How many entities; each has two shapes and an input. */
const ENTITIES = 200;

const columns = {
  id: integer().key().generated(),
  name: text({ min: 1, max: 60 }),
  note: text().nullable(),
  rank: integer({ min: 0, max: 99 }),
  ownerId: integer().nullable(),
  phone: text({ max: 30 }).nullable().sealed('personal'),
  createdAt: timestamp().generated(),
};

const names = Array.from({ length: ENTITIES }, (_, i) => `thing${i}`);
const nextOf = (i: number): string => `thing${(i + 1) % ENTITIES}`;

// The types of names that are made here cannot be inferred: what matters is what is done at run time.
type Thing = ReturnType<typeof sampleModel>['thing0'];

const sampleModel = () =>
  model(
    { thing0: entity('thing0', columns) },
    { thing0: { owner: toOne('thing0', 'ownerId'), owned: toMany('thing0', 'ownerId') } },
  );

const db = model(
  Object.fromEntries(names.map((name) => [name, entity(name, columns)])),
  Object.fromEntries(
    names.map((name, i) => [
      name,
      {
        owner: toOne(nextOf(i), 'ownerId'),
        owned: toMany(names[(i + ENTITIES - 1) % ENTITIES] ?? '', 'ownerId'),
      },
    ]),
  ) as never,
) as unknown as Readonly<Record<string, Thing>>;

const collections = names.map((name, i) => {
  const thing = db[name] as Thing;
  const Owner = shape(db[nextOf(i)] as Thing, (t) => ({ id: t.id, name: t.name }), { name: `Owner${i}` });
  const Card = shape(thing, (t) => ({ id: t.id, name: t.name, rank: t.rank }), { name: `Card${i}` });
  const Detail = shape(
    thing,
    (t) => ({ ...Card(t), note: t.note, owner: Owner(t.owner as never), since: t.createdAt }),
    { name: `Detail${i}` },
  );
  const New = input(thing, (t) => ({ name: t.name, note: t.note, rank: t.rank }), { name: `New${i}` });
  const at = collection(`/${name}`, thing, {
    list: list(Card),
    read: Detail,
    create: { takes: New, returns: Detail },
    remove: true,
  });
  return [name, at] as const;
});

export const large = api({
  title: 'A large API',
  version: '1.0.0',
  audiences: ['public', 'office'],
  endpoints: Object.fromEntries(collections),
});

export default { api: large, store: memoryStore(db), model: db, samples: { rows: 2 }, out: 'generated' };
