import {
  type AnyBody,
  api,
  at,
  audience,
  collection,
  entity,
  given,
  integer,
  list,
  model,
  shape,
  text,
  timestamp,
  type Value,
  writer,
} from 'gribo';

/** How many endpoints the large API has: two for each entity. */
export const ENDPOINTS = 200;

/** How many members each of its shapes has. */
export const MEMBERS = 20;

/** Columns of the three kinds that lists mostly have. */
export const columns = () =>
  Object.fromEntries(
    Array.from({ length: MEMBERS }, (_, n) => [`m${n}`, [integer(), text(), timestamp()][n % 3] ?? text()]),
  );

/** A row of `columns`, which every one of its bodies can write. */
export const rowOf = (id: number) => ({
  id,
  ...Object.fromEntries(
    Object.keys(columns()).map((key, n) => [
      key,
      [id * n, `text ${id} of ${n}`, new Date(1.7e12 + id * n * 1000)][n % 3],
    ]),
  ),
});

/** The entities of the large API. */
export const largeModel = () => {
  const names = Array.from({ length: ENDPOINTS / 2 }, (_, i) => `e${i}`);
  const entities = Object.fromEntries(
    names.map((name) => [name, entity(name, { id: integer().key(), ...columns() })]),
  );
  return model(entities, {});
};

/** An API with two endpoints for each entity, whose members have conditions of the audience and the operation. */
export const largeApi = (db: ReturnType<typeof largeModel>) => {
  const collections = Object.keys(db).map((name) => {
    const bound = db[name];
    if (bound === undefined) throw new Error(name);
    const One = shape(bound, (row) => {
      const members = Object.keys(columns()).map((key, n): [string, Value<unknown, unknown>] => {
        const value = row[key as 'id'] as unknown as Value<unknown, unknown>;
        return [
          key,
          (n % 4 === 0
            ? given(audience('agent'), value)
            : n % 4 === 1
              ? at({ read: value })
              : value) as never,
        ];
      });
      return Object.fromEntries(members);
    });
    return [name, collection(`/${name}`, bound, { list: list(One), read: One })] as const;
  });
  return api({
    title: 'Large',
    version: '1',
    audiences: ['agent'],
    endpoints: Object.fromEntries(collections),
  });
};

/** Writes one response of every endpoint: its writer is made, and kept. */
export const writeEach = ({ plan }: Pick<ReturnType<typeof largeApi>, 'plan'>): void => {
  const row = rowOf(1) as never;
  for (const { name, returns } of plan.endpoints) {
    if (returns === null) continue;
    const write = writer({ plan: returns } as unknown as AnyBody, { endpoint: name, audience: 'agent' });
    // Nothing is known of the bodies' types here; each of them is over the same columns.
    write.bytes((returns.kind === 'list' ? [row] : row) as never);
  }
};
