import { entity, input, integer, model, oneOf, optional, reader, text, timestamp, toMany } from 'gribo';
import { compare } from './compare.js';
import type { Figure } from './figure.js';

const ITEMS = 1000;

const db = model(
  {
    shipment: entity('shipment', { id: integer().key().generated(), name: text({ max: 40 }) }),
    item: entity('item', {
      id: integer().key().generated(),
      shipmentId: integer(),
      commodity: text({ min: 1, max: 60 }),
      weight: integer({ min: 0 }),
      eta: timestamp(),
      kind: oneOf('bulk', 'boxed'),
      note: text().nullable(),
    }),
  },
  { shipment: { items: toMany('item', 'shipmentId') } },
);

const NewItem = input(db.item, (i) => ({
  commodity: i.commodity,
  weightKg: i.weight,
  eta: i.eta,
  kind: i.kind,
  note: optional(i.note),
}));
const NewShipment = input(db.shipment, (s) => ({ name: s.name, items: NewItem(s.items) }));

const body = {
  name: 'spring',
  items: Array.from({ length: ITEMS }, (_, i) => ({
    commodity: `barley ${i}`,
    weightKg: i * 3,
    eta: new Date(1.7e12 + i * 1e6).toISOString(),
    kind: i % 2 === 0 ? 'bulk' : 'boxed',
    ...(i % 3 === 0 ? {} : { note: `note ${i}` }),
  })),
};

interface HandIssue {
  readonly pointer: string;
  readonly code: string;
}

const MOMENT = /^(\d{4})-(\d\d)-(\d\d)T(\d\d):(\d\d):(\d\d)(\.\d+)?(Z|[+-]\d\d:\d\d)$/;
const KNOWN = new Set(['commodity', 'weightKg', 'eta', 'kind', 'note']);

const momentByHand = (value: unknown): Date | undefined => {
  const [, year, month, day] = (typeof value === 'string' ? MOMENT.exec(value) : null) ?? [];
  if (day === undefined || Number(day) > new Date(Date.UTC(Number(year), Number(month), 0)).getUTCDate())
    return undefined;
  const moment = new Date(value as string);
  return Number.isNaN(moment.getTime()) ? undefined : moment;
};

type HandResult =
  | { readonly ok: true; readonly value: object }
  | { readonly ok: false; readonly issues: readonly HandIssue[] };

/** The checks and the mapping of one item, as they are written today: the same issues are found. */
const itemByHand = (item: Record<string, unknown>, at: string, issues: HandIssue[]): object => {
  for (const name of Object.keys(item))
    if (!KNOWN.has(name)) issues.push({ pointer: `${at}/${name}`, code: 'unknown' });
  const { commodity, weightKg, eta, kind, note } = item;
  if (typeof commodity !== 'string') issues.push({ pointer: `${at}/commodity`, code: 'type' });
  else if (commodity.length < 1 || commodity.length > 60)
    issues.push({ pointer: `${at}/commodity`, code: 'length' });
  if (!Number.isSafeInteger(weightKg)) issues.push({ pointer: `${at}/weightKg`, code: 'type' });
  else if ((weightKg as number) < 0) issues.push({ pointer: `${at}/weightKg`, code: 'range' });
  const moment = momentByHand(eta);
  if (moment === undefined) issues.push({ pointer: `${at}/eta`, code: 'format' });
  if (kind !== 'bulk' && kind !== 'boxed') issues.push({ pointer: `${at}/kind`, code: 'choice' });
  if (note !== undefined && note !== null && typeof note !== 'string')
    issues.push({ pointer: `${at}/note`, code: 'type' });
  return { commodity, weight: weightKg, eta: moment, kind, ...(note === undefined ? {} : { note }) };
};

const shipmentByHand = (sent: Record<string, unknown>): HandResult => {
  const issues: HandIssue[] = [];
  for (const name of Object.keys(sent)) {
    if (name !== 'name' && name !== 'items') issues.push({ pointer: `/${name}`, code: 'unknown' });
  }
  const { name, items: sentItems } = sent;
  if (typeof name !== 'string') issues.push({ pointer: '/name', code: 'type' });
  else if (name.length > 40) issues.push({ pointer: '/name', code: 'length' });
  if (!Array.isArray(sentItems))
    return { ok: false, issues: [...issues, { pointer: '/items', code: 'type' }] };
  const items = sentItems.map((item, i) => itemByHand(item, `/items/${i}`, issues));
  return issues.length > 0 ? { ok: false, issues } : { ok: true, value: { name, items } };
};

const json = JSON.stringify(body);
const read = reader(NewShipment);

/** The same body with one thing wrong in each of its first items. */
const wrong = {
  ...body,
  name: 'n'.repeat(41),
  items: body.items.map((item, i) => {
    const faults: readonly object[] = [
      { commodity: '' },
      { commodity: 5 },
      { weightKg: -1 },
      { weightKg: 1.5 },
      { eta: '2026-02-30T06:00:00Z' },
      { kind: 'loose' },
      { note: 5 },
      { stranger: 1 },
    ];
    return { ...item, ...faults[i] };
  }),
};

/** Both sides must find the same things wrong: else their times say nothing. */
const checkIssues = (): void => {
  const found = (result: HandResult): string =>
    JSON.stringify(result.ok ? [] : result.issues.map(({ pointer, code }) => `${pointer} ${code}`).sort());
  const [hand, gribo] = [found(shipmentByHand(wrong)), found(read.object(wrong))];
  if (hand !== gribo || hand === '[]')
    throw new Error(`the two sides find other issues: ${hand} and ${gribo}`);
};

const timeReading = (): readonly Figure[] => [
  compare({
    what: 'reader.json of 1,000 nested inputs',
    byHand: () => shipmentByHand(JSON.parse(json)),
    byGribo: () => read.json(json),
    calls: 10,
    atLeast: 1.5,
  }),
  compare({
    what: 'reader.object of the same',
    byHand: () => shipmentByHand(body),
    byGribo: () => read.object(body),
    calls: 10,
    atLeast: 1.5,
  }),
];

/** Reading: a body with a thousand nested inputs, all of them right. */
export const benchRead = (): readonly Figure[] => {
  checkIssues();
  return timeReading();
};
