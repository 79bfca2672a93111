import { createServer, type IncomingMessage, type RequestListener, type ServerResponse } from 'node:http';
import { nodeListener, serve } from '@gribo/http';
import express from 'express';
import fastify from 'fastify';
import { api, collection, memoryStore, page } from 'gribo';
import { started } from './side.js';
import { db, mappedByHand, type Vessel, VesselDetail, vesselRows } from './vessels.js';

/** The rows of the benchmark, in the order of the page. */
const rows: readonly Vessel[] = [...vesselRows(1000)].sort((a, b) => a.id - b.id);
const byId = new Map(rows.map((row) => [row.id, row]));

/** What is written by hand today: a page, mapped and counted, within what is allowed; null where it is not. */
const pageByHand = (size: number, number: number): object | null => {
  if (!(Number.isInteger(size) && size >= 1 && size <= 100 && Number.isInteger(number) && number >= 1))
    return null;
  const start = (number - 1) * size;
  return {
    items: rows.slice(start, start + size).map(mappedByHand),
    page: { number, size, total: rows.length, pages: Math.ceil(rows.length / size) },
  };
};

/** One vessel; null where there is none. */
const vesselByHand = (id: number): object | null => {
  const row = byId.get(id);
  return row === undefined ? null : mappedByHand(row);
};

const problem = (status: number): object => ({ title: status === 404 ? 'Not Found' : 'Bad Request', status });

const answered = (response: ServerResponse, status: number, body: object): void => {
  const text = JSON.stringify(body);
  response.writeHead(status, {
    'content-type': 'application/json',
    'content-length': Buffer.byteLength(text),
  });
  response.end(text);
};

/** The least there is: Node's own server, without anything in between. */
const raw = (request: IncomingMessage, response: ServerResponse): void => {
  const [path = '', search = ''] = (request.url ?? '').split('?');
  if (path === '/vessels') {
    const query = new URLSearchParams(search);
    const made = pageByHand(Number(query.get('size') ?? 20), Number(query.get('page') ?? 1));
    return answered(response, made === null ? 400 : 200, made ?? problem(400));
  }
  const made = path.startsWith('/vessels/') ? vesselByHand(Number(path.slice('/vessels/'.length))) : null;
  answered(response, made === null ? 404 : 200, made ?? problem(404));
};

const onExpress = (): RequestListener => {
  const app = express();
  app.get('/vessels', (request, response) => {
    const { size = 20, page: number = 1 } = request.query;
    const made = pageByHand(Number(size), Number(number));
    response.status(made === null ? 400 : 200).json(made ?? problem(400));
  });
  app.get('/vessels/:id', (request, response) => {
    const made = vesselByHand(Number(request.params.id));
    response.status(made === null ? 404 : 200).json(made ?? problem(404));
  });
  return app;
};

const onFastify = async (): Promise<RequestListener> => {
  const app = fastify();
  app.get('/vessels', (request, reply) => {
    const { size = 20, page: number = 1 } = request.query as { size?: string; page?: string };
    const made = pageByHand(Number(size), Number(number));
    return reply.code(made === null ? 400 : 200).send(made ?? problem(400));
  });
  app.get('/vessels/:id', (request, reply) => {
    const made = vesselByHand(Number((request.params as { id: string }).id));
    return reply.code(made === null ? 404 : 200).send(made ?? problem(404));
  });
  await app.ready();
  return (request, response) => app.routing(request, response);
};

const byGribo = (): RequestListener => {
  const operators = rows.flatMap(({ operator }) => (operator === null ? [] : [operator]));
  const store = memoryStore(db, {
    operator: [...new Map(operators.map((operator) => [operator.id, operator])).values()],
    vessel: rows,
    portCall: rows.flatMap(({ portCalls }) => portCalls),
  });
  const office = api({
    title: 'Vessels',
    version: '1.0.0',
    endpoints: {
      vessels: collection('/vessels', db.vessel, {
        list: page(VesselDetail, { size: 20, max: 100 }),
        read: VesselDetail,
      }),
    },
  });
  return nodeListener(serve(office, { store }));
};

const SIDES: Readonly<Record<string, () => RequestListener | Promise<RequestListener>>> = {
  raw: () => raw,
  Express: onExpress,
  Fastify: onFastify,
  gribo: byGribo,
};

started(createServer(await SIDES[process.argv[2] ?? '']?.()));
