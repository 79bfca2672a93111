import type { Statement } from '@gribo/sql';
import { type LoadPlan, loadPlan, RowError, writer } from 'gribo';
import type { EndpointPlan } from 'gribo/kit';
import compact from 'json-stringify-pretty-compact';
import picocolors from 'picocolors';
import { harbour } from './api.js';
import { db } from './model.js';
import { Berth, VesselCard, VesselCards, VesselDetail } from './shapes.js';
import { harbourStore } from './store.js';

const colours = picocolors.createColors(process.stdout.isTTY === true && picocolors.isColorSupported);

const say = (title: string, line: string): void => {
  console.log(`\n${colours.bold(colours.cyan(title))}\n${colours.dim(line)}`);
};

const inJson = (_name: string, value: unknown): unknown =>
  typeof value === 'bigint' ? String(value) : value;
const pretty = (value: unknown): string => compact(value, { maxLength: 134, replacer: inJson });
const size = (value: unknown): number => Buffer.byteLength(JSON.stringify(value, inJson));

/** Every column of a vessel, as `select *` gives them, but under the row's property names. */
const wholeVessel: LoadPlan = {
  ...loadPlan(VesselCard),
  columns: db.vessel.entity.columns.map(({ name, stored, type, coded }) => ({ name, stored, type, coded })),
  links: [],
};

console.log(colours.bold('Gribo: the API of the Merrow Harbour Office, on an embedded PostgreSQL'));
const statements: Statement[] = [];
const store = await harbourStore({ log: (statement) => statements.push(statement) });

const stored = await store.read(wholeVessel, [3]);
say(
  '1. A vessel as it is stored',
  'Too much for a client: a private phone number, internal dates, a key instead of a name.',
);
console.log(pretty(stored));

const loaded = await store.read(loadPlan(VesselDetail), [3]);
if (loaded === null || stored === null) throw new Error('vessel 3 is not there');
say(
  '2. The same vessel through VesselCard',
  'For lists: six members; one is renamed (flag), one comes from the operator.',
);
console.log(pretty(writer(VesselCard).object(loaded)));

say(
  '3. The same vessel through VesselDetail',
  'For reading one: nested, computed, shortened. The phone number is sealed and stays out.',
);
const detail = writer(VesselDetail).object(loaded);
console.log(pretty(detail));

say(
  '4. A list, and what it loads',
  'The query follows from the shape: these columns, the operator joined, and nothing else.',
);
statements.length = 0;
const plan = loadPlan(VesselCards);
const many = await store.list(plan, { limit: 4 });
// What comes from the operator, on a line of its own.
for (const { sql } of statements) console.log(sql.replace(', "t1"', ',\n  "t1"'));
const cards = writer(VesselCards);
for (const card of cards.object(many)) console.log(JSON.stringify(card));

say(
  '5. A row that does not fit',
  'Nothing is guessed and nothing half is written: the error names the place.',
);
const [firstCall, ...otherCalls] = (loaded as { portCalls: readonly object[] }).portCalls;
const broken = { ...loaded, portCalls: [{ ...firstCall, eta: 'soon' }, ...otherCalls] };
try {
  writer(VesselDetail).json(broken);
} catch (error) {
  if (!(error instanceof RowError)) throw error;
  console.log(colours.red(`${error.name} ${error.code}  ${error.message}`));
}

say(
  '6. One shape, three endpoints',
  'Berth goes out as a choice, in a list, and in full; the gate code only when the harbour master reads it.',
);
const [storedBerth] = await store.list(
  loadPlan(Berth, { endpoint: 'berths.read', audience: 'harbourMaster' }),
  { limit: 1 },
);
if (storedBerth === undefined) throw new Error('there is no berth');
const berthAt = (endpoint: string, audience: string): void => {
  const shown = writer(Berth, { endpoint, audience }).json(storedBerth);
  console.log(`${`${endpoint} for ${audience}`.padEnd(30)}${shown}`);
};
berthAt('berths.options', 'public');
berthAt('berths.list', 'public');
berthAt('berths.read', 'harbourMaster');

say('7. The API', 'Everything that is declared: gribo table <entity> shows who sees which member where.');
const resources = new Map<string, EndpointPlan[]>();
for (const endpoint of harbour.plan.endpoints) {
  const [resource = ''] = endpoint.name.split('.');
  resources.set(resource, [...(resources.get(resource) ?? []), endpoint]);
}
for (const [resource, endpoints] of resources) {
  const [first] = endpoints;
  const byWhom = new Map<string, string[]>();
  for (const { name, audiences } of endpoints) {
    const whom = audiences === null ? '' : ` (${audiences.join(', ')})`;
    byWhom.set(whom, [...(byWhom.get(whom) ?? []), name.slice(resource.length + 1)]);
  }
  const operations = [...byWhom].map(([whom, names]) => names.join(' ') + whom);
  console.log(`${resource.padEnd(12)}${(first?.path ?? '').padEnd(30)}${operations.join('; ')}`);
}

say('8. Sizes', 'Forty vessels, in bytes of JSON: every stored column, and what the list sends.');
const before = size(await store.list(wholeVessel));
const after = writer(VesselCards).bytes(await store.list(plan)).length;
console.log(
  `stored ${before.toLocaleString('en')}   sent ${after.toLocaleString('en')}   ${Math.round((1 - after / before) * 100)} % less`,
);

console.log(`\nNext: cd examples/harbour && npx gribo show vessels.read --id 3 --beside`);
await store.close?.();
