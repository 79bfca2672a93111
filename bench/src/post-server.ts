import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { nodeListener, serve } from '@gribo/http';
import {
  api,
  bool,
  collection,
  entity,
  input,
  integer,
  memoryStore,
  model,
  optional,
  real,
  shape,
  text,
  timestamp,
} from 'gribo';
import { started } from './side.js';

const db = model(
  {
    vessel: entity('vessel', {
      id: integer().key().generated(),
      name: text({ min: 1, max: 60 }),
      callSign: text({ max: 10 }).nullable(),
      imoNumber: text({ pattern: /^\d{7}$/ }),
      builtYear: integer({ min: 1850, max: 2100 }),
      tonnage: real({ min: 0 }),
      active: bool(),
      registeredAt: timestamp(),
      notes: text({ max: 2000 }),
    }),
  },
  {},
);

const NewVessel = input(db.vessel, (v) => ({
  name: v.name,
  callSign: optional(v.callSign),
  imoNumber: v.imoNumber,
  built: v.builtYear,
  size: { tonnage: v.tonnage },
  active: v.active,
  registeredAt: v.registeredAt,
  notes: v.notes,
}));

const Vessel = shape(db.vessel, (v) => ({
  id: v.id,
  name: v.name,
  callSign: v.callSign,
  imoNumber: v.imoNumber,
  built: v.builtYear,
  size: { tonnage: v.tonnage },
  active: v.active,
  registeredAt: v.registeredAt,
  notes: v.notes,
}));

const office = api({
  title: 'Vessels',
  version: '1.0.0',
  endpoints: {
    vessels: collection('/vessels', db.vessel, {
      read: Vessel,
      create: { takes: NewVessel, returns: Vessel },
    }),
  },
});

const MOST_BYTES = 1_048_576;
const MOMENT = /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(?:\.\d+)?(?:Z|[+-]\d\d:\d\d)$/;

type Body = Readonly<Record<string, unknown>>;

const isObject = (value: unknown): value is Body =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** A check of each member, as it is written by hand: what is wrong, by pointer. */
const CHECKS: Readonly<Record<string, (value: unknown) => boolean>> = {
  name: (value) => typeof value === 'string' && value.length >= 1 && value.length <= 60,
  callSign: (value) =>
    value === undefined || value === null || (typeof value === 'string' && value.length <= 10),
  imoNumber: (value) => typeof value === 'string' && /^\d{7}$/.test(value),
  built: (value) => Number.isInteger(value) && Number(value) >= 1850 && Number(value) <= 2100,
  size: (value) =>
    isObject(value) &&
    Object.keys(value).length === 1 &&
    typeof value['tonnage'] === 'number' &&
    value['tonnage'] >= 0,
  active: (value) => typeof value === 'boolean',
  registeredAt: (value) =>
    typeof value === 'string' && MOMENT.test(value) && !Number.isNaN(new Date(value).getTime()),
  notes: (value) => typeof value === 'string' && value.length <= 2000,
};

const wrongIn = (body: Body): readonly string[] => [
  ...Object.keys(body).filter((name) => !(name in CHECKS)),
  ...Object.entries(CHECKS).flatMap(([name, check]) => (check(body[name]) ? [] : [name])),
];

const rows = new Map<number, Body>();

const answered = (response: ServerResponse, status: number, body: object, location?: string): void => {
  const text = JSON.stringify(body);
  response.writeHead(status, {
    'content-type': status < 400 ? 'application/json' : 'application/problem+json',
    'content-length': Buffer.byteLength(text),
    ...(location === undefined ? {} : { location }),
  });
  response.end(text);
};

const stored = (response: ServerResponse, body: Body): void => {
  const id = rows.size + 1;
  const { tonnage } = body['size'] as { tonnage: number };
  const registeredAt = new Date(String(body['registeredAt']));
  rows.set(id, { ...body, id, tonnage, registeredAt });
  const { name, callSign = null, imoNumber, built, active, notes } = body;
  const made = { id, name, callSign, imoNumber, built, size: { tonnage }, active, registeredAt, notes };
  answered(response, 201, made, `/vessels/${id}`);
};

const taken = (request: IncomingMessage, response: ServerResponse, bytes: Buffer): void => {
  if (request.method !== 'POST' || request.url !== '/vessels')
    return answered(response, 404, { status: 404 });
  if (request.headers['content-type'] !== 'application/json') return answered(response, 415, { status: 415 });
  let body: unknown;
  try {
    body = JSON.parse(bytes.toString('utf8'));
  } catch {
    return answered(response, 400, { status: 400 });
  }
  const errors = isObject(body) ? wrongIn(body) : [''];
  if (errors.length > 0) return answered(response, 422, { status: 422, errors });
  stored(response, body as Body);
};

/** What is written by hand: the body bounded, parsed, checked, stored, and sent back. */
const byHand = (request: IncomingMessage, response: ServerResponse): void => {
  const chunks: Buffer[] = [];
  let size = 0;
  request.on('data', (chunk: Buffer) => {
    size += chunk.length;
    if (size > MOST_BYTES) request.destroy();
    else chunks.push(chunk);
  });
  request.on('end', () => taken(request, response, Buffer.concat(chunks)));
};

const listener =
  process.argv[2] === 'gribo' ? nodeListener(serve(office, { store: memoryStore(db) })) : byHand;
started(createServer(listener));
