import { form, serve, standardFormats } from '@gribo/http';
import { api, collection, entity, input, integer, memoryStore, model, text, toMany } from 'gribo';
import { type Figure, median } from './figure.js';
import { type LargeBody, largeBodies, oneLargeText } from './large-bodies.js';

const db = model(
  {
    operator: entity('operator', { id: integer().key().generated(), name: text({ max: 80 }) }),
    vessel: entity('vessel', { id: integer().key().generated(), name: text(), operatorId: integer() }),
  },
  { operator: { vessels: toMany('vessel', 'operatorId') } },
);
const NewVessel = input(db.vessel, (v) => ({ name: v.name }));
const NewOperator = input(db.operator, (o) => ({ name: o.name, fleet: NewVessel(o.vessels) }));

const office = api({
  title: 'Office',
  version: '1',
  endpoints: { operators: collection('/operators', db.operator, { create: { takes: NewOperator } }) },
});

const ROUNDS = 9;
const MOST = 8;

/** Times bodies of a megabyte that are meant to keep a server busy, against one with a single text. */
export const benchBodies = async (): Promise<Figure> => {
  const handle = serve(office, { store: memoryStore(db, {}), formats: [...standardFormats, form] });
  const timeOf = async ({ type, body, status, name }: LargeBody): Promise<number> => {
    const headers = { 'content-type': type };
    const request = new Request('http://o.test/operators', {
      method: 'POST',
      headers,
      body: body as BodyInit,
    });
    const start = performance.now();
    const response = await handle(request);
    await response.text();
    const time = performance.now() - start;
    if (response.status !== status) throw new Error(`${name}: ${response.status}`);
    return time;
  };
  const text = oneLargeText();
  for (let i = 0; i < ROUNDS; i++) await timeOf(text);
  let worst = { name: '', ratio: 0, time: 0 };
  for (const body of largeBodies()) {
    const rounds = [];
    for (let i = 0; i < ROUNDS; i++) rounds.push([await timeOf(text), await timeOf(body)] as const);
    const time = median(rounds.map(([, own]) => own));
    const ratio = time / median(rounds.map(([one]) => one));
    if (ratio > worst.ratio) worst = { name: body.name, ratio, time };
  }
  const { name, ratio, time } = worst;
  return {
    what: `the slowest of ${largeBodies().length} bodies of 1 MB`,
    than: 'one with a single text',
    theirs: time / ratio,
    ours: time,
    unit: 'ms',
    ratio: 1 / ratio,
    bar: 1 / MOST,
    beside: name,
  };
};
