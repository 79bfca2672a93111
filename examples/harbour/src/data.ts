import { picture } from './picture.js';
import { Random } from './random.js';

/** A row under its entity's own property names. */
export type DataRow = Readonly<Record<string, unknown>>;

/** The harbour's rows by entity, in an order in which they can be inserted. */
export type HarbourData = Readonly<Record<string, readonly DataRow[]>>;

const DAY = 86_400_000;
const HOUR = 3_600_000;

/** The moment that the demo takes for now, so that it always shows the same. */
export const NOW: Date = new Date('2026-06-15T06:00:00.000Z');

const at = (days: number, hours = 0): Date => new Date(NOW.getTime() + days * DAY + hours * HOUR);

const OPERATORS: readonly (readonly [name: string, country: string, parent: number | null])[] = [
  ['Lantern Bay Holding', 'QM', null],
  ['Lantern Bay Lines', 'QM', 1],
  ['Lantern Bay Ferries', 'QM', 2],
  ['Greyling & Daughters', 'XK', null],
  ['Ostwick Bulk', 'XV', null],
  ['Ostwick "Coastal" Bulk', 'XV', 5],
  ['Тихая Гавань', 'XT', null],
  ['Halvane Tankers', 'QN', null],
  ['Port Merrow Tugs', 'QM', null],
  ['Sable Reach Fishing Co-operative', 'QM', null],
  ['青波海運', 'XJ', null],
  ['Fenwither Yachts', 'XK', null],
];

const VESSELS = [
  'Anselma',
  'Borrowed Light',
  'Cormorant Rose',
  'Dunlin',
  'Evening Tern',
  'Fair Isobel',
  'Grey Wagtail',
  'Halcyon Drift',
  'Isolde Marten',
  'Juniper',
  'Kittiwake',
  'Larkspur',
  'Merrow Pride',
  'North Anchorite',
  'Ouzel',
  'Petrel’s Patience',
  'Quiet Margin',
  'Redshank',
  'Saltmarsh Queen',
  'Turnstone',
  'Ullswick',
  'Velvet Swimmer',
  'Wandering Whimbrel',
  'Xanthe',
  'Yarrow',
  'Zephyrine',
  'Amber "Nan"',
  'Brindle',
  'Curlew\nCall',
  'Дальний свет',
  '潮風',
  'Elder Tide',
  'Fulmar 🐦',
  'Gannet',
  'Hollow Bell',
  'Ibis',
  'Jackdaw',
  'Knot',
  'Linnet',
  'Moorhen',
] as const;

const KINDS = ['bulk', 'tanker', 'ferry', 'fishing', 'yacht', 'tug'] as const;
const QUAYS: readonly (readonly [name: string, parent: number | null])[] = [
  ['Outer Harbour', null],
  ['Lantern Quay', 1],
  ['Lantern Quay East', 2],
  ['Inner Basin', null],
  ['Fish Dock', 4],
  ['Ferry Steps', 4],
];
const PILOTS = [
  'Agna Thorsby',
  'Berin Vale',
  'Corwen Ashe',
  'Dorrit Lund',
  'Emory Pell',
  'Fenna Quist',
  'Garrick Moss',
  'Hale Underwater',
  'Ines Örkeny',
] as const;
const COMMODITIES = ['barley', 'rock salt', 'diesel', 'sawn timber', 'frozen cod', 'cement', 'machine parts'];
const CONSIGNEES = ['Merrow Mills', 'Tollgate Stores', 'Hasp & Hinge', 'Northgate Builders'];
const PHRASES = [
  'Pilot boarded north of the bar',
  'Late swell from the west',
  'Tug requested',
  'Agent informed by radio',
  'Crew change at the quay',
  'Fresh water and stores taken on',
  'Fender damage reported',
  'Berth shifted at slack tide',
  'Gangway to be watched at low water',
  'Shore power tested and in order',
  'Waste landed against receipt',
  'Master asks for an early berth',
];

/** Sentences of so many words or a few more. */
const prose = (random: Random, words: number): string => {
  const sentences: string[] = [];
  for (let written = 0; written < words; ) {
    const phrase = random.pick(PHRASES);
    sentences.push(`${phrase}.`);
    written += phrase.split(' ').length;
  }
  return sentences.join(' ');
};

const phone = (random: Random): string => `+00 555 ${random.between(100, 999)} ${random.between(1000, 9999)}`;

const operators = (random: Random): DataRow[] =>
  OPERATORS.map(([name, country, parentId], i) => ({
    id: i + 1,
    name,
    country,
    phone: random.chance(0.8) ? phone(random) : null,
    email: random.chance(0.7) ? `office${i + 1}@operator.example` : null,
    creditNote: random.chance(0.4) ? `Pays ${random.between(5, 60)} days late; ask for a deposit.` : null,
    parentId,
    createdAt: at(-900 + i * 7),
    updatedAt: at(-random.between(1, 200)),
  }));

const notesOf = (random: Random, i: number): string | null => {
  if (i === 2) return prose(random, 30);
  if (i === 12) return prose(random, 300);
  if (i === 6) return 'Says "no tug needed".\nCheck the \\stern\\ line; see the note of 🐦 Fulmar.';
  return random.chance(0.6) ? prose(random, random.between(6, 40)) : null;
};

const vessels = (random: Random): DataRow[] =>
  VESSELS.map((name, i) => ({
    id: i + 1,
    imoNumber: String(9_100_000 + i * 137),
    name,
    callSign: i % 5 === 4 ? null : `${random.pick(['M', 'Q', 'X'])}${random.pick(['A', 'K', 'R'])}${100 + i}`,
    kind: KINDS[i % KINDS.length],
    flagState: random.pick(['QM', 'XK', 'XV', 'XT', 'QN']),
    builtYear: i === 18 ? 1921 : random.between(1965, 2024),
    grossTonnage: `${random.between(80, 48_000)}.${i % 3 === 0 ? '0' : random.between(1, 9)}`,
    lengthM: random.between(120, 2400) / 10,
    draughtM: random.between(12, 140) / 10,
    operatorId: i % 7 === 3 ? null : random.between(1, OPERATORS.length),
    masterPhone: random.chance(0.85) ? phone(random) : null,
    notes: notesOf(random, i),
    // The training ship was entered when the first register was typed in: before 1970.
    createdAt: i === 18 ? new Date('1968-04-02T09:30:00.000Z') : at(-800 + i * 11),
    updatedAt: at(-random.between(1, 120), random.between(0, 23)),
    changedBy: 'register',
  }));

const quays = (): DataRow[] => QUAYS.map(([name, parentId], i) => ({ id: i + 1, name, parentId }));

const berths = (random: Random): DataRow[] =>
  Array.from({ length: 14 }, (_, i) => ({
    id: i + 1,
    code: `${'ABCDEF'.charAt(i % 6)}${Math.floor(i / 6) + 1}`,
    name: `${QUAYS[i % 6]?.[0]} ${Math.floor(i / 6) + 1}`,
    quayId: (i % 6) + 1,
    maxDraughtM: random.between(30, 150) / 10,
    maxLengthM: random.between(30, 260),
    gateCode: String(random.between(100_000, 999_999)),
    description: prose(random, random.between(10, 30)),
    inService: i !== 9,
  }));

const pilots = (random: Random): DataRow[] =>
  PILOTS.map((name, i) => ({
    id: i + 1,
    firstName: name.split(' ')[0],
    lastName: name.split(' ')[1],
    licence: (['A', 'B', 'C'] as const)[i % 3],
    phone: phone(random),
    medicalUntil: at(random.between(20, 700)).toISOString().slice(0, 10),
  }));

const statusOn = (random: Random, day: number): string => {
  if (random.chance(0.08)) return 'cancelled';
  if (day < -2) return 'sailed';
  if (day < 1) return random.pick(['berthed', 'sailed']);
  return random.pick(['announced', 'confirmed']);
};

/** Vessel 40 has no call at all: its list is empty. */
const portCalls = (random: Random): DataRow[] =>
  Array.from({ length: 120 }, (_, i) => {
    const day = random.between(-90, 30);
    const status = i === 7 ? 'cancelled' : statusOn(random, day);
    const eta = at(day, random.between(0, 23));
    const arrived = status === 'berthed' || status === 'sailed';
    const hazardous = random.chance(0.15);
    return {
      id: random.uuid(),
      vesselId: (i % 39) + 1,
      berthId: status === 'announced' ? null : random.between(1, 14),
      status,
      eta,
      etd: random.chance(0.7) ? new Date(eta.getTime() + random.between(6, 80) * HOUR) : null,
      arrivedAt: arrived ? new Date(eta.getTime() + random.between(-5, 9) * HOUR) : null,
      hazardous,
      hazardDetail: hazardous ? 'Class 3, flammable liquids; no hot work alongside.' : null,
      dues: i === 3 ? '1250.00' : `${random.between(90, 9000)}.${random.between(10, 99)}`,
      remarks: random.chance(0.5) ? prose(random, random.between(4, 20)) : null,
      embargoUntil: i === 11 || random.chance(0.04) ? at(random.between(2, 20)) : null,
      createdAt: at(day - random.between(3, 30)),
      updatedAt: at(day - random.between(0, 2)),
      changedBy: 'register',
    };
  });

const cargoItems = (random: Random, calls: readonly DataRow[]): DataRow[] =>
  Array.from({ length: 400 }, (_, i) => ({
    id: i + 1,
    portCallId: random.pick(calls)['id'],
    commodity: random.pick(COMMODITIES),
    // The first one is a typing error that real data has: more than 2^53.
    weightKg: i === 0 ? 9_007_199_254_740_993n : BigInt(random.between(40, 900_000)),
    hazardClass: random.chance(0.1) ? '3' : null,
    consignee: random.pick(CONSIGNEES),
  }));

const pilotages = (random: Random, calls: readonly DataRow[]): DataRow[] =>
  calls
    .filter((call) => call['arrivedAt'] !== null)
    .flatMap((call) => {
      const first = random.between(1, 9);
      const ids = random.chance(0.2) ? [first, (first % 9) + 1] : [first];
      return ids.map((pilotId) => ({ portCallId: call['id'], pilotId, boardedAt: call['arrivedAt'] }));
    });

/** Some vessels were photographed, all of them from the same side. */
const photos = (): DataRow[] =>
  [1, 2, 3].map((vesselId) => ({ vesselId, image: picture(), mediaType: 'image/png' }));

/** Position reports, one by one: a few thousand for the demo, a million for an export. */
export function* positionReports(many: number, seed = 7): Generator<DataRow> {
  const random = new Random(seed);
  for (let i = 0; i < many; i++) {
    const raw = random.chance(0.3) ? Uint8Array.from({ length: 12 }, () => random.between(0, 255)) : null;
    yield {
      id: BigInt(i + 1),
      vesselId: (i % VESSELS.length) + 1,
      at: new Date(NOW.getTime() - (many - i) * 60_000),
      lat: 54 + random.between(0, 99_999) / 100_000,
      lon: -2 + random.between(0, 99_999) / 100_000,
      speedKn: random.between(0, 220) / 10,
      raw,
    };
  }
}

/** Everything in the harbour's database; the same seed gives the same rows. */
export const harbourData = (seed = 20260615, reports = 5000): HarbourData => {
  const random = new Random(seed);
  const portCall = portCalls(new Random(seed + 1));
  return {
    operator: operators(random),
    vessel: vessels(random),
    photo: photos(),
    quay: quays(),
    berth: berths(random),
    pilot: pilots(random),
    portCall,
    cargoItem: cargoItems(random, portCall),
    pilotage: pilotages(random, portCall),
    positionReport: [...positionReports(reports)],
  };
};
