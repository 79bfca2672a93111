import { serve, standardFormats } from '@gribo/http';
import { memoryStore, samples } from 'gribo';
import type { EndpointPlan } from 'gribo/kit';
import { harbour } from '../../examples/harbour/src/api.js';
import { NOW } from '../../examples/harbour/src/data.js';
import { handlers } from '../../examples/harbour/src/handlers.js';
import { db } from '../../examples/harbour/src/model.js';
import { type Outcome, shown } from './outcome.js';

type Audience = (typeof harbour.audiences)[number] | null;

/** A request that is sent on every runtime. */
interface Sending {
  readonly audience: Audience;
  readonly path: string;
  readonly init: RequestInit;
}

const AUDIENCES: readonly Audience[] = [null, ...harbour.audiences];

const VESSEL = {
  imoNumber: '7654321',
  name: 'Merel "Zwei" 潮 😀',
  kind: 'tug',
  flag: 'QM',
  builtYear: 1999,
  size: { length: 30.5, draught: 3, tonnage: '99.5' },
  operator: { id: null },
};

const CALL = {
  id: '0f7f5b52-3c5e-4b5e-9b57-0d8d4b3a5a11',
  vessel: { id: 1 },
  eta: '2026-04-01T06:00:00Z',
  cargo: [{ commodity: 'Salt', weightKg: 1200.5, consignee: 'Käse & Söhne' }],
};

const POSITIONS =
  'vesselId,at,lat,lon,speedKn,raw\r\n1,2026-03-01T06:00:00Z,54.2,10.4,11.5,\r\n2,2026-03-01T06:10:00Z,54.3,10.4,0,"AQID"\r\n';

const BODIES: readonly (readonly [method: string, path: string, type: string, body: string])[] = [
  ['POST', '/vessels', 'application/json', JSON.stringify(VESSEL)],
  ['POST', '/vessels', 'application/json', JSON.stringify(VESSEL)],
  [
    'POST',
    '/vessels',
    'application/json',
    JSON.stringify({ ...VESSEL, builtYear: 1.5, nmae: 1, kind: 'boat' }),
  ],
  ['POST', '/vessels', 'application/json', '{"name":"cut'],
  ['POST', '/vessels', 'application/json', `${'['.repeat(100)}${']'.repeat(100)}`],
  [
    'POST',
    '/vessels',
    'text/xml',
    '<vessel><name>A&amp;B</name><kind>tug</kind><builtYear>x</builtYear></vessel>',
  ],
  ['POST', '/vessels', 'text/xml', '<vessel><name>A</vessel>'],
  ['POST', '/vessels', 'application/cbor', '\xa1\x64\x6e\x61\x6d\x65\x61\x41'],
  ['POST', '/vessels', 'application/cbor', '\xff'],
  ['POST', '/vessels', 'text/plain', 'vessel'],
  ['POST', '/port-calls', 'application/json', JSON.stringify(CALL)],
  ['POST', '/port-calls', 'application/json', JSON.stringify({ ...CALL, cargo: [{ commodity: 5 }, 7] })],
  ['PATCH', '/vessels/2', 'application/merge-patch+json', '{"name":"Renamed","notes":null}'],
  ['PATCH', '/vessels/999', 'application/merge-patch+json', '{"name":"Renamed"}'],
  ['PATCH', `/port-calls/${CALL.id}`, 'application/json', '{"status":"berthed","remarks":"Ünder way"}'],
  ['POST', '/positions', 'text/csv', POSITIONS],
  ['POST', '/positions', 'text/csv', `${POSITIONS},2026-03-01,x\n`],
  [
    'POST',
    '/positions',
    'application/x-ndjson',
    '{"vesselId":1,"at":"2026-03-01T06:30:00Z","lat":1,"lon":2,"speedKn":0}\n',
  ],
  ['POST', '/positions', 'application/json', '[{"vesselId":1}]'],
  ['DELETE', '/vessels/999', 'application/json', ''],
];

const latin1 = (text: string): Uint8Array<ArrayBuffer> => Uint8Array.from(text, (char) => char.charCodeAt(0));

const isBinary = (type: string): boolean => type === 'application/cbor';

const reading = (endpoint: EndpointPlan): readonly string[] => {
  const key = endpoint.path.includes('port-call') ? '{call}' : '1';
  const path = endpoint.path.replace(/\{[^}]*\}/, key);
  if (endpoint.operation !== 'list') return [path, `${path}?fields=id`, path.replace(key, '999')];
  return [path, `${path}?fields=id,name`, `${path}?page=2&size=3`, `${path}?nothing=1`];
};

const sendings = (): Sending[] => {
  const made: Sending[] = [];
  for (const audience of AUDIENCES) {
    for (const endpoint of harbour.plan.endpoints.filter(({ method }) => method === 'GET')) {
      for (const path of reading(endpoint)) {
        made.push({ audience, path, init: {} });
      }
    }
    for (const { mediaTypes } of standardFormats) {
      for (const path of ['/vessels', '/vessels/1', '/berths', '/positions', '/quays', '/vessels/999'])
        made.push({ audience, path, init: { headers: { accept: mediaTypes[0] ?? '' } } });
    }
    for (const [method, path, type, body] of BODIES) {
      const init = {
        method,
        headers: { 'content-type': type },
        ...(body === '' ? {} : { body: isBinary(type) ? latin1(body) : body }),
      };
      made.push({ audience, path, init });
    }
    made.push({ audience, path: '/vessels/1', init: { method: 'HEAD' } });
    made.push({ audience, path: '/vessels', init: { method: 'OPTIONS' } });
    made.push({ audience, path: '/vessels/1', init: { headers: { 'if-none-match': '*' } } });
  }
  return made;
};

/** The bytes of a response; how it ended where it broke off. */
const bodyOf = async (response: Response): Promise<string> => {
  try {
    return shown(new Uint8Array(await response.arrayBuffer()));
  } catch (error) {
    return `broke off: ${error}`;
  }
};

/** Hundreds of requests to the harbour, on made-up rows: statuses, headers and bytes. */
export const requests = async (): Promise<readonly Outcome[]> => {
  let made = 0;
  const rows = samples(db, { seed: 7, rows: { positionReport: 2500, vessel: 30 } });
  const store = memoryStore(db, rows, {
    now: () => new Date(Date.UTC(2026, 2, 1) + ++made * 1000),
    uuid: () => `00000000-0000-4000-8000-${String(++made).padStart(12, '0')}`,
  });
  const [call] = rows['portCall'] as readonly { readonly id: string }[];
  let audience: Audience = null;
  const handle = serve(harbour, {
    store,
    caller: () => ({ audience, user: 'lantern', operatorId: 2 }),
    handlers,
    now: () => NOW,
    log: { error: (about, message) => outcomes.push({ what: message, came: JSON.stringify(about) }) },
  });
  const outcomes: Outcome[] = [];
  for (const sending of sendings()) {
    ({ audience } = sending);
    const path = sending.path.replace('{call}', call?.id ?? '');
    const response = await handle(new Request(`http://harbour.test${path}`, sending.init));
    const headers = [...response.headers].sort().map(([name, value]) => `${name}: ${value}`);
    const body = await bodyOf(response);
    outcomes.push({
      what: `${audience} ${sending.init.method ?? 'GET'} ${path} ${JSON.stringify(sending.init.headers ?? {})}`,
      came: [String(response.status), ...headers, body].join('\n'),
    });
  }
  return outcomes;
};
