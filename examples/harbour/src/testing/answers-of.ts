import { createHash } from 'node:crypto';
import { serve } from '@gribo/http';
import { memoryStore } from 'gribo';
import { harbour } from '../api.js';
import { harbourData, NOW } from '../data.js';
import { handlers } from '../handlers.js';
import { db } from '../model.js';

/** Who asks, by name. */
const CALLERS = {
  public: { audience: 'public' },
  lantern: { audience: 'agent', user: 'lantern', operatorId: 2 },
  halvane: { audience: 'agent', user: 'halvane', operatorId: 8 },
  office: { audience: 'harbourMaster', user: 'office' },
} as const;

interface Wish {
  readonly method: string;
  readonly path: string;
  readonly body?: unknown;
  /** A picture, in the place of JSON. */
  readonly image?: Uint8Array;
}

const get = (path: string): Wish => ({ method: 'GET', path });

const data = harbourData();
const keysOf = (entity: string): readonly unknown[] => (data[entity] ?? []).map((row) => row['id']);

/** Each list, with what its query may ask. */
const lists: readonly string[] = [
  '/vessels',
  '/vessels?page=2&size=7&sort=builtYear desc',
  '/vessels?flag=QM',
  '/vessels?q=an&with=operator',
  '/vessels?builtAfter=2000&fields=id,flag',
  '/vessels?format=csv',
  '/port-calls',
  '/port-calls?status=berthed',
  '/port-calls?from=2026-06-15T00:00:00Z&sort=eta',
  '/port-calls?vessel=an&page=2',
  '/berths',
  '/berths/options',
  '/pilots',
  '/quays',
  '/positions',
  '/operators',
];

/** Everything that reads: lists, and each row. */
const readings: readonly Wish[] = lists.map(get).concat(
  keysOf('vessel').flatMap((id) => [get(`/vessels/${id}`), get(`/vessels/${id}/photo`)]),
  keysOf('operator').map((id) => get(`/operators/${id}`)),
  keysOf('portCall').flatMap((id) => [
    get(`/port-calls/${id}`),
    get(`/port-calls/${id}?with=cargo`),
    get(`/port-calls/${id}/cargo`),
  ]),
  keysOf('berth').map((id) => get(`/berths/${id}`)),
  keysOf('pilot').map((id) => get(`/pilots/${id}`)),
);

const [firstCall, secondCall, thirdCall] = keysOf('portCall');
const NEW_CALL = '0197f3a0-0000-7000-8000-000000000001';

const vessel = {
  name: 'Skua Light',
  callSign: 'QM-9001',
  kind: 'tug',
  flag: 'QM',
  builtYear: 1999,
  size: { length: 31.5, draught: 3.26, tonnage: '310.0' },
  operator: { id: 2 },
  masterPhone: '+00 555 1',
  notes: 'Entered by hand.',
};

const call = {
  berth: { id: 1 },
  status: 'announced',
  eta: '2026-06-20T06:00:00Z',
  etd: null,
  hazardous: true,
  hazardDetail: 'class 3',
  dues: '12.50',
  remarks: 'none',
  embargoUntil: null,
};

/** A PNG of one pixel. */
const PIXEL = Uint8Array.from(
  atob('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg=='),
  (letter) => letter.charCodeAt(0),
);

/** Everything that changes something, in an order in which it can. */
const changes: readonly Wish[] = [
  { method: 'POST', path: '/vessels', body: { imoNumber: '9074729', ...vessel } },
  { method: 'POST', path: '/vessels', body: { imoNumber: 'x', ...vessel, flagState: 'QM' } },
  { method: 'PATCH', path: '/vessels/2', body: { flag: 'XK', size: { length: 12.5 } } },
  { method: 'PATCH', path: '/vessels/2', body: { imoNumber: '9074729' } },
  { method: 'PUT', path: '/vessels/2', body: vessel },
  { method: 'POST', path: '/port-calls', body: { id: NEW_CALL, vessel: { id: 2 }, eta: call.eta } },
  { method: 'POST', path: '/port-calls', body: { id: NEW_CALL, vessel: { id: 2 }, ...call } },
  { method: 'PATCH', path: `/port-calls/${NEW_CALL}`, body: { hazardDetail: 'class 8', dues: '3.00' } },
  { method: 'PUT', path: `/port-calls/${firstCall}`, body: { ...call, cargo: [] } },
  { method: 'POST', path: `/port-calls/${secondCall}/cancel`, body: { reason: 'The engine is out.' } },
  {
    method: 'POST',
    path: `/port-calls/${NEW_CALL}/cancel?dryRun=true`,
    body: { reason: 'The engine is out.' },
  },
  { method: 'POST', path: `/port-calls/${NEW_CALL}/reserve`, body: { berth: 2, pilot: 1 } },
  { method: 'POST', path: `/port-calls/${thirdCall}/reserve`, body: { berth: 2, pilot: 1 } },
  {
    method: 'POST',
    path: `/port-calls/${firstCall}/cargo`,
    body: [{ commodity: 'grain', weightKg: 1200, consignee: 'Ostwick Bulk' }],
  },
  {
    method: 'POST',
    path: '/positions',
    body: [{ vesselId: 1, at: '2026-06-15T05:00:00Z', lat: 1.5, lon: 2, speedKn: 3 }],
  },
  // A picture of one pixel, and what is none.
  { method: 'PUT', path: '/vessels/2/photo', image: PIXEL },
  { method: 'PUT', path: '/vessels/2/photo', body: {} },
  { method: 'DELETE', path: `/port-calls/${NEW_CALL}` },
  { method: 'DELETE', path: '/vessels/2' },
];

/** What is sent, as what it is. */
const contentOf = ({ method, body, image }: Wish): RequestInit => {
  if (image !== undefined) return { headers: { 'content-type': 'image/png' }, body: image as BodyInit };
  if (body === undefined) return {};
  const type = method === 'PATCH' ? 'application/merge-patch+json' : 'application/json';
  return { headers: { 'content-type': type }, body: JSON.stringify(body) };
};

/** Problems that are ours have an address of their own each time. */
const steady = (text: string): string => text.replaceAll(/urn:uuid:[\w-]+/g, 'urn:uuid');

const hash = (bytes: Uint8Array): string =>
  createHash('sha256').update(bytes).digest('base64url').slice(0, 16);

/**
 * What the harbour answers, a line for each request: who asks, what, the status, and a hash of the body's type and bytes.
 *
 * @param prefix what its paths start with, such as `/2025-11`
 */
export const answersOf = async (prefix: string): Promise<readonly string[]> => {
  const lines: string[] = [];
  for (const [name, caller] of Object.entries(CALLERS)) {
    // Whoever asks finds the rows as they were in the beginning.
    const handle = serve(harbour, {
      store: memoryStore(db, data),
      caller: () => caller,
      handlers,
      now: () => NOW,
      formatParameter: true,
      log: { error: () => {} },
    });
    for (const wish of [...readings, ...changes]) {
      const { method, path } = wish;
      const request = new Request(`http://harbour.example${prefix}${path}`, { method, ...contentOf(wish) });
      const response = await handle(request);
      const type = response.headers.get('content-type') ?? '';
      const bytes = new Uint8Array(await response.arrayBuffer());
      const said = type.includes('json') ? Buffer.from(steady(Buffer.from(bytes).toString())) : bytes;
      lines.push(
        [
          name,
          method,
          path.replaceAll(' ', '+'),
          response.status,
          type.replaceAll(' ', '') || '-',
          hash(said),
        ].join(' '),
      );
    }
  }
  return lines;
};
