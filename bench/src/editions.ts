import { serve } from '@gribo/http';
import {
  type AnyApi,
  api,
  collection,
  constant,
  editionBefore,
  editionFrom,
  given,
  list,
  memoryStore,
  shape,
  writer,
} from 'gribo';
import { compare } from './compare.js';
import { type Figure, median } from './figure.js';
import { db, vesselRows } from './vessels.js';

const ROUNDS = 31;
const REQUESTS = 400;
const rows = vesselRows(1000);

/** A shape of three editions: renames, a member that is an object since, one that came. */
const Together = shape(
  db.vessel,
  (v) => ({
    id: v.id,
    name: given(editionBefore('2026-02'), v.name),
    title: given(editionFrom('2026-02'), v.name),
    built: given(editionFrom('2026-05'), { value: v.builtYear, unit: constant('year') }, v.builtYear),
    tonnage: given(editionFrom('2026-05'), v.grossTonnage),
    callSign: v.callSign,
    active: v.active,
  }),
  { name: 'Vessel' },
);

/** The same as it is in the newest of them, declared alone. */
const Alone = shape(
  db.vessel,
  (v) => ({
    id: v.id,
    title: v.name,
    built: { value: v.builtYear, unit: constant('year') },
    tonnage: v.grossTonnage,
    callSign: v.callSign,
    active: v.active,
  }),
  { name: 'Vessel' },
);

const together = api({
  title: 'Fleet',
  version: '1.0.0',
  editions: ['2025-11', '2026-02', '2026-05'],
  endpoints: { vessels: collection('/vessels', db.vessel, { list: list(Together), read: Together }) },
});
const alone = api({
  title: 'Fleet',
  version: '1.0.0',
  endpoints: { vessels: collection('/vessels', db.vessel, { list: list(Alone), read: Alone }) },
});

/** Milliseconds that one request takes. */
const asking = (declared: AnyApi, path: string) => {
  const vessel = rows.map(({ operator, portCalls, ...row }) => ({ ...row, operatorId: null }));
  const handle = serve(declared, { store: memoryStore(db, { vessel } as never), unnamed: 'newest' });
  const once = async (): Promise<string> => (await handle(new Request(`http://bench.example${path}`))).text();
  const timed = async (): Promise<number> => {
    const start = performance.now();
    for (let i = 0; i < REQUESTS; i++) await once();
    return (performance.now() - start) / REQUESTS;
  };
  return { once, timed };
};

/** Answering in the newest of three editions, which the path names, against an API that has no other. */
const benchAnswering = async (): Promise<Figure> => {
  const [one, three] = [asking(alone, '/vessels/7'), asking(together, '/2026-05/vessels/7')];
  if ((await one.once()) !== (await three.once())) throw new Error('the two answers differ');
  for (let i = 0; i < 4; i++) {
    await one.timed();
    await three.timed();
  }
  const times: (readonly [number, number])[] = [];
  for (let i = 0; i < ROUNDS; i++) times.push([await one.timed(), await three.timed()]);
  return {
    what: 'a row over Fetch, in one of three editions',
    than: 'an API of that edition alone',
    theirs: median(times.map(([time]) => time)),
    ours: median(times.map(([, time]) => time)),
    unit: 'ms',
    ratio: median(times.map(([theirs, ours]) => theirs / ours)),
    bar: null,
    beside: 'which edition is asked is found once a request',
  };
};

const [whole, inEdition] = [writer(list(Alone)), writer(list(Together), { edition: '2026-05' })];

/** Three editions against one: what the edition settles costs nothing for a row. */
export const benchEditions = async (): Promise<readonly Figure[]> => [
  compare({
    what: 'bytes of 1,000 rows, in one of three editions',
    than: 'a shape of that edition alone',
    byHand: () => whole.bytes(rows),
    byGribo: () => inEdition.bytes(rows),
    calls: 8,
    atLeast: 0.97,
  }),
  await benchAnswering(),
];
