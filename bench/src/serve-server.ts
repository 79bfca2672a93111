import { serve } from '@gribo/http';
import { serve as host } from '@hono/node-server';
import { api, collection, memoryStore, page } from 'gribo';
import { Hono } from 'hono';
import { db, mappedByHand, type Vessel, VesselDetail, vesselRows } from './vessels.js';

/** The rows of the benchmark, in the order of the page. */
const rows: readonly Vessel[] = [...vesselRows(1000)].sort((a, b) => a.id - b.id);

/** What is written by hand today: the page, mapped and counted, within what is allowed. */
const byHand = new Hono().get('/vessels', (c) => {
  const size = Number(c.req.query('size') ?? 20);
  const number = Number(c.req.query('page') ?? 1);
  if (!(Number.isInteger(size) && size >= 1 && size <= 100 && Number.isInteger(number) && number >= 1)) {
    return c.json({ title: 'Bad Request', status: 400 }, 400);
  }
  const start = (number - 1) * size;
  return c.json({
    items: rows.slice(start, start + size).map(mappedByHand),
    page: { number, size, total: rows.length, pages: Math.ceil(rows.length / size) },
  });
});

const store = memoryStore(db, {
  operator: [
    ...new Map(rows.flatMap(({ operator }) => (operator === null ? [] : [[operator.id, operator]]))).values(),
  ],
  vessel: rows,
  portCall: rows.flatMap(({ portCalls }) => portCalls),
});

const office = api({
  title: 'Vessels',
  version: '1.0.0',
  endpoints: {
    vessels: collection('/vessels', db.vessel, { list: page(VesselDetail, { size: 20, max: 100 }) }),
  },
});

const byGribo = serve(office, { store });

/** One side of the comparison, in a process of its own: the port is told to the parent. */
const fetch = process.argv[2] === 'gribo' ? byGribo : byHand.fetch;
const server = host({ fetch, hostname: '127.0.0.1', port: 0 }, ({ port }) => process.send?.(port));
process.once('disconnect', () => server.close());
