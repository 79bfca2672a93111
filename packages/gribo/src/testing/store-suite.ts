import { expect } from 'chai';
import {
  count,
  equals,
  everything,
  first,
  list,
  loadPlan,
  oneOfThese,
  type Store,
  shape,
  some,
  writer,
} from '../index.js';
import {
  comparison,
  type FilterOperator,
  ordering,
  type RowQuery,
  type SortKey,
  type StoreCondition,
} from '../kit.js';
import { callId, stock, stockRows } from './stock.js';

const PilotName = shape(stock.pilot, ({ name }) => ({ name }), { name: 'PilotName' });
const CallLine = shape(stock.portCall, ({ id, eta, status }) => ({ id, eta, status }), { name: 'CallLine' });
const VesselName = shape(stock.vessel, ({ id, name }) => ({ id, name }), { name: 'VesselName' });
const VesselRow = shape(stock.vessel, (v) => ({ ...everything(v) }), { name: 'VesselRow' });
const VesselTree = shape(
  stock.vessel,
  (v) => ({
    name: v.name,
    operator: v.operator.name,
    group: v.operator.parent.name,
    calls: CallLine(some(v.portCalls, { sort: ['eta desc'] })),
    berthed: count(some(v.portCalls, { where: (c) => [equals(c.status, 'berthed')] })),
    next: first(
      some(v.portCalls, { where: (c) => [oneOfThese(c.status, ['announced', 'berthed'])], sort: ['eta'] }),
      CallLine,
    ),
  }),
  { name: 'VesselTree' },
);
const CallTree = shape(
  stock.portCall,
  (c) => ({ status: c.status, vessel: c.vessel.name, pilots: PilotName(some(c.pilots, { sort: ['name'] })) }),
  { name: 'CallTree' },
);

const CallDeep = shape(
  stock.portCall,
  (c) => ({ id: c.id, pilots: PilotName(some(c.pilots, { sort: ['name'] })) }),
  { name: 'CallDeep' },
);
const VesselDeep = shape(
  stock.vessel,
  (v) => ({
    name: v.name,
    callSign: v.callSign,
    builtYear: v.builtYear,
    group: v.operator.parent.name,
    calls: CallDeep(some(v.portCalls, { sort: ['eta'] })),
  }),
  { name: 'VesselDeep' },
);

/** Three calls of a vessel, each with a pilot who is there already and one who is new. */
const callsOf = (i: number) =>
  [0, 1, 2].map((n) => ({
    id: callId(100 + i * 10 + n),
    eta: new Date(Date.UTC(2026, 6, 1 + n, 6)),
    status: 'announced',
    pilots: [{ name: `Pilot ${i}/${n}` }, { id: 2 }],
  }));

const column = (name: string) => {
  const found = stock.vessel.entity.columns.find((candidate) => candidate.name === name);
  if (found === undefined) throw new Error(name);
  return found;
};
const where = (name: string, operator: FilterOperator, value: unknown): StoreCondition =>
  comparison(column(name), operator, value);
const by = (...words: string[]): SortKey[] =>
  words.map((word) => ordering(column(word.replace(' desc', '')), word.endsWith(' desc')));

/** What every store must do. `open` makes a store that holds just these rows, and is called for each test. */
export const describeStore = (name: string, open: (rows: typeof stockRows) => Promise<Store>): void => {
  describe(`a store: ${name}`, () => {
    let store: Store;
    beforeEach(async () => {
      store = await open(stockRows);
    });

    const ids = async (query: RowQuery): Promise<number[]> => {
      const rows = await store.list(loadPlan(VesselName), query);
      return writer(list(VesselName))
        .object(rows)
        .map(({ id }) => id);
    };
    const names = async (entity: string): Promise<number> => store.count(entity);
    const tree = async (id: number): Promise<unknown> =>
      writer(VesselTree).object((await store.read(loadPlan(VesselTree), [id])) ?? {});
    const refusal = async (work: Promise<unknown>): Promise<unknown> => {
      try {
        await work;
        return null;
      } catch (error) {
        const { code, reason, entity, columns, row, message } = error as Record<string, unknown>;
        return code === 'CONFLICT' ? { code, reason, entity, columns, row } : { message };
      }
    };

    describe('lists', () => {
      it('by the key where nothing is said', async () => {
        expect(await ids({})).to.deep.equal([1, 2, 3, 4, 5]);
      });

      it('in an order, nulls last either way, ties by the key', async () => {
        expect(await ids({ sort: by('builtYear') })).to.deep.equal([1, 2, 4, 3, 5]);
        expect(await ids({ sort: by('builtYear desc') })).to.deep.equal([5, 3, 2, 4, 1]);
        expect(await ids({ sort: by('callSign') })).to.deep.equal([3, 5, 1, 4, 2]);
        expect(await ids({ sort: by('callSign desc') })).to.deep.equal([4, 1, 5, 3, 2]);
        expect(await ids({ sort: by('active', 'builtYear desc') })).to.deep.equal([5, 3, 1, 2, 4]);
        expect(await ids({ sort: by('weight desc', 'tonnage') })).to.deep.equal([3, 5, 4, 2, 1]);
      });

      it('so many, from so far', async () => {
        expect(await ids({ limit: 2 })).to.deep.equal([1, 2]);
        expect(await ids({ limit: 2, offset: 4 })).to.deep.equal([5]);
        expect(await ids({ offset: 3 })).to.deep.equal([4, 5]);
        expect(await ids({ offset: 9, limit: 1 })).to.deep.equal([]);
      });

      it('after a row, in every order, over nulls too', async () => {
        for (const sort of [
          by(),
          by('builtYear desc'),
          by('callSign'),
          by('callSign desc'),
          by('active', 'builtYear desc'),
          // Several rows have null in what comes first: the place is among them.
          by('registered', 'name'),
          by('operatorId desc', 'builtYear desc'),
        ]) {
          const all = await ids({ sort });
          const rows = await store.list(loadPlan(VesselRow), { sort });
          const values = rows.map((row) =>
            [...sort.map(({ column: { name: key } }) => key), 'id'].map(
              (key) => (row as Record<string, unknown>)[key],
            ),
          );
          for (const [i, after] of values.entries()) {
            expect(await ids({ sort, after, limit: 2 }), `after ${String(after)}`).to.deep.equal(
              all.slice(i + 1, i + 3),
            );
          }
        }
      });

      it('what every filter selects', async () => {
        const cases: [StoreCondition, number[]][] = [
          [where('kind', 'equals', 'tanker'), [1]],
          [where('callSign', 'equals', ''), [3]],
          [where('id', 'oneOfThese', [2, 5, 99]), [2, 5]],
          [where('id', 'oneOfThese', []), []],
          [where('builtYear', 'atLeast', 1983), [3, 5]],
          [where('builtYear', 'atMost', 1982), [1, 2, 4]],
          [where('callSign', 'isNull', true), [2]],
          [where('callSign', 'isNull', false), [1, 3, 4, 5]],
          [where('active', 'equals', true), [2, 4]],
          [where('weight', 'equals', 9_007_199_254_740_993n), [3]],
          [where('weight', 'atLeast', 5000n), [3, 5]],
          [where('tonnage', 'equals', '100.50'), [1]],
          [where('registered', 'equals', '1969-07-20'), [3]],
          [where('registered', 'atLeast', '1900-01-01'), [3]],
          [where('opens', 'equals', '06:30:00'), [3]],
          [where('surveyedAt', 'atMost', new Date('1965-02-03T04:05:06.789Z')), [3]],
          [where('surveyedAt', 'atMost', new Date('1965-02-03T04:05:06.788Z')), []],
          [where('draught', 'equals', 0.1), [3]],
          [where('name', 'contains', 'TERN'), [3, 5]],
          [where('name', 'contains', '%'), [3]],
          [where('name', 'contains', '_'), [3]],
          [where('name', 'contains', '\\'), [3]],
          [where('name', 'contains', "o'h"), [3]],
          [where('name', 'contains', '青波 🚢\n'), [3]],
          [where('name', 'contains', ''), [1, 2, 3, 4, 5]],
        ];
        for (const [filter, expected] of cases) {
          const said = JSON.stringify(filter, (_name, value) =>
            typeof value === 'bigint' ? String(value) : value,
          );
          expect(await ids({ where: [filter] }), said).to.deep.equal(expected);
          expect(await store.count('vessel', [filter]), said).to.equal(expected.length);
        }
        expect(
          await ids({
            where: [where('active', 'equals', false), where('builtYear', 'atLeast', 1983)],
            sort: by('id desc'),
          }),
        ).to.deep.equal([5, 3]);
      });
    });

    describe('loads', () => {
      it('a row with what is linked to it, filtered, sorted, counted', async () => {
        const line = (last: number, day: string, status: string) => ({
          id: callId(last),
          eta: `${day}T06:00:00.000Z`,
          status,
        });
        expect(await tree(1)).to.deep.equal({
          name: 'Anselma',
          operator: 'Lantern Bay Lines',
          group: 'Lantern Bay',
          calls: [
            line(2, '2026-05-01', 'berthed'),
            line(3, '2026-04-01', 'berthed'),
            line(1, '2026-03-01', 'sailed'),
          ],
          berthed: 2,
          next: line(3, '2026-04-01', 'berthed'),
        });
        expect(await tree(4)).to.deep.equal({
          name: 'Dunlin',
          operator: null,
          group: null,
          calls: [],
          berthed: 0,
          next: null,
        });
      });

      it('many-to-many rows', async () => {
        const row = await store.read(loadPlan(CallTree), [callId(2)]);
        expect(writer(CallTree).object(row ?? {})).to.deep.equal({
          status: 'berthed',
          vessel: 'Anselma',
          pilots: [{ name: 'Ines' }, { name: 'Tomas' }],
        });
      });

      it('every type of value, exactly', async () => {
        const row = await store.read(loadPlan(VesselRow), [3]);
        expect(writer(VesselRow).object(row ?? {})).to.deep.equal({
          id: 3,
          name: '100% "Tern"_\\ O\'Hara 青波 🚢\n',
          callSign: '',
          kind: 'bulk',
          builtYear: 1983,
          tonnage: '12345678.0',
          draught: 0.1,
          active: false,
          weight: '9007199254740993',
          registered: '1969-07-20',
          opens: '06:30:00',
          surveyedAt: '1965-02-03T04:05:06.789Z',
          details: { colours: ['red', null], depth: 1.5, note: "it's" },
          photo: 'AP8KJ1w=',
          operatorId: 3,
        });
      });

      it('nothing where there is no such row, or a comparison does not hold', async () => {
        expect(await store.read(loadPlan(VesselName), [99])).to.equal(null);
        expect(await store.read(loadPlan(VesselName), [1], [where('kind', 'equals', 'tug')])).to.equal(null);
        expect(await store.read(loadPlan(VesselName), [1], [where('kind', 'equals', 'tanker')])).to.not.equal(
          null,
        );
      });
    });

    describe('streams', () => {
      const streamed = async (query: RowQuery, most = Number.POSITIVE_INFINITY): Promise<unknown[]> => {
        const rows: object[] = [];
        for await (const row of store.stream(loadPlan(VesselTree), query)) {
          rows.push(row);
          if (rows.length === most) break;
        }
        return writer(list(VesselTree)).object(rows);
      };

      it('the same rows as a list', async () => {
        const query = { sort: by('callSign desc'), where: [where('id', 'atMost', 4)] };
        const listed = await store.list(loadPlan(VesselTree), query);
        expect(await streamed(query)).to.deep.equal(writer(list(VesselTree)).object(listed));
      });

      it('so many, from so far', async () => {
        expect(await streamed({ limit: 3, offset: 1 })).to.have.length(3);
        expect(await streamed({ limit: 5, offset: 2 })).to.have.length(3);
        const [first] = (await streamed({ offset: 4 })) as { name: string }[];
        expect(first?.name).to.equal('Evening Tern');
      });

      it('until it is ended', async () => {
        expect(await streamed({}, 2)).to.have.length(2);
        expect(await ids({})).to.have.length(5);
      });
    });

    const newVessel = {
      name: 'New One',
      kind: 'tug',
      builtYear: 2001,
      tonnage: '12.5',
      draught: 2,
      active: true,
      weight: 5n,
    };

    describe('creates', () => {
      it('a row, with the key that is made for it, null where nothing is said', async () => {
        const key = await store.create('vessel', { ...newVessel, operatorId: 3, photo: Uint8Array.of(1, 2) });
        expect(key).to.deep.equal([6]);
        const row = await store.read(loadPlan(VesselRow), key);
        const made = writer(VesselRow).object(row ?? {}) as Record<string, unknown>;
        expect(made).to.include({
          id: 6,
          name: 'New One',
          weight: '5',
          tonnage: '12.5',
          photo: 'AQI=',
          callSign: null,
        });
      });

      it('every type of value', async () => {
        const values = {
          ...newVessel,
          callSign: "Robert'); drop table vessel; --",
          registered: '2024-02-29',
          opens: '23:59:59',
          surveyedAt: new Date('2026-03-01T23:30:00.123Z'),
          details: [1, { a: null }],
          weight: -9_007_199_254_740_993n,
        };
        const key = await store.create('vessel', values);
        const made = writer(VesselRow).object((await store.read(loadPlan(VesselRow), key)) ?? {});
        expect(made).to.deep.include({
          callSign: values.callSign,
          registered: '2024-02-29',
          opens: '23:59:59',
          surveyedAt: '2026-03-01T23:30:00.123Z',
          details: [1, { a: null }],
          weight: '-9007199254740993',
        });
      });

      it('every kind of JSON', async () => {
        for (const details of [true, false, 5, 'true', '5', '', [], { a: { b: [null] } }]) {
          const key = await store.create('vessel', { ...newVessel, details });
          const made = writer(VesselRow).object((await store.read(loadPlan(VesselRow), key)) ?? {});
          expect(made.details, JSON.stringify(details)).to.deep.equal(details);
        }
      });

      it('the rows of nested inputs with it', async () => {
        const portCalls = [
          {
            id: callId(21),
            eta: new Date('2026-07-01T06:00:00Z'),
            status: 'announced',
            pilots: [{ id: 2 }, { name: 'Nova' }],
          },
          { id: callId(22), eta: new Date('2026-08-01T06:00:00Z'), status: 'announced' },
        ];
        const key = await store.create('vessel', { ...newVessel, operator: { name: 'Founders' }, portCalls });
        const made = (await tree(Number(key[0]))) as { operator: string; calls: { id: string }[] };
        expect(made.operator).to.equal('Founders');
        expect(made.calls.map(({ id }) => id)).to.deep.equal([callId(22), callId(21)]);
        const row = await store.read(loadPlan(CallTree), [callId(21)]);
        expect(writer(CallTree).object(row ?? {}).pilots).to.deep.equal([
          { name: 'Nova' },
          { name: 'Tomas' },
        ]);
        expect(await names('pilot')).to.equal(3);
      });

      it('rows four levels deep, many of each, whatever each of them leaves out', async () => {
        const vessels = Array.from({ length: 7 }, (_, i) => ({
          ...newVessel,
          name: `Nested ${i}`,
          ...(i % 2 === 0 ? { callSign: `N${i}` } : { builtYear: 1990 + i }),
          ...(i === 3 ? {} : { portCalls: callsOf(i) }),
        }));
        const key = await store.create('operator', { name: 'Deep', parent: { name: 'Deeper' }, vessels });
        expect(key).to.deep.equal([5]);
        const found = writer(list(VesselDeep)).object(
          await store.list(loadPlan(VesselDeep), { where: [where('operatorId', 'equals', 5)] }),
        );
        expect(found.map(({ name: made }) => made)).to.deep.equal(vessels.map(({ name: given }) => given));
        expect(found.map(({ callSign }) => callSign)).to.deep.equal([
          'N0',
          null,
          'N2',
          null,
          'N4',
          null,
          'N6',
        ]);
        expect(found.map(({ builtYear }) => builtYear)).to.deep.equal([
          2001, 1991, 2001, 1993, 2001, 1995, 2001,
        ]);
        for (const [i, { group, calls }] of found.entries()) {
          expect(group).to.equal('Deeper');
          expect(calls.map(({ id }) => id)).to.deep.equal(i === 3 ? [] : callsOf(i).map(({ id }) => id));
          for (const [n, { pilots }] of calls.entries()) {
            const expected = [`Pilot ${i}/${n}`, 'Tomas'];
            expect(pilots.map(({ name: made }) => made)).to.deep.equal(expected);
          }
        }
        // Each has one pilot who is new; Tomas was there.
        expect(await names('pilot')).to.equal(2 + 6 * 3);
      });

      it('a row whose key is made of those of two nested ones', async () => {
        const portCall = {
          id: callId(41),
          eta: new Date('2026-07-01T06:00:00Z'),
          status: 'announced',
          vesselId: 5,
        };
        const key = await store.create('pilotage', { portCall, pilot: { name: 'Ada' } });
        expect(key).to.deep.equal([callId(41), 3]);
        expect(await store.amend('pilotage', key, { pilot: { name: 'Ada B.' } })).to.equal(true);
        const row = await store.read(loadPlan(CallTree), [callId(41)]);
        expect(writer(CallTree).object(row ?? {}).pilots).to.deep.equal([{ name: 'Ada B.' }]);
        expect(await store.remove('pilotage', key)).to.equal(true);
        expect(await names('pilotage')).to.equal(3);
      });

      it('more rows than one statement takes parameters', async () => {
        const vessels = Array.from({ length: 9000 }, (_, i) => ({ ...newVessel, name: `Many ${i}` }));
        const [id] = await store.create('operator', { name: 'Fleet', vessels });
        const found = await store.list(loadPlan(VesselName), {
          where: [where('operatorId', 'equals', id)],
          sort: by('id'),
        });
        expect(found).to.have.length(9000);
        expect(writer(list(VesselName)).object(found.slice(-1))[0]?.name).to.equal('Many 8999');
      });

      const batches = async function* (...all: readonly (readonly object[])[]) {
        yield* all;
      };

      it('many rows in batches, with what is nested in them', async () => {
        const many = Array.from({ length: 2500 }, (_, i) => ({ ...newVessel, name: `All ${i}` }));
        const nested = [
          {
            ...newVessel,
            name: 'With calls',
            portCalls: [{ id: callId(51), eta: new Date(0), status: 'sailed' }],
          },
          { ...newVessel, name: 'Owned', operator: { name: 'Brand New' } },
        ];
        expect(
          await store.createAll('vessel', batches(many.slice(0, 1000), many.slice(1000), [], nested)),
        ).to.equal(2502);
        expect(await names('vessel')).to.equal(2507);
        expect(await names('operator')).to.equal(4);
        expect((await tree(2506)) as object).to.deep.include({ name: 'With calls', berthed: 0 });
        expect(await store.createAll('vessel', batches())).to.equal(0);
      });

      it('none of many rows where one does not fit, or where their source fails: the conflict names the row', async () => {
        const operator = (name: string) => ({ name });
        const fine = Array.from({ length: 30 }, (_, i) => operator(`Fine ${i}`));
        const told = (work: Promise<unknown>) => refusal(work) as Promise<{ row: number | null }>;
        const taken = await told(
          store.createAll(
            'operator',
            batches(fine, [operator('More'), operator('Ostwick'), operator('Last')]),
          ),
        );
        expect(taken).to.deep.include({ code: 'CONFLICT', reason: 'duplicate', columns: ['name'], row: 31 });
        // Which of two it is, stores may see either way.
        const twice = await told(store.createAll('operator', batches([operator('Same'), operator('Same')])));
        expect(twice).to.include({ code: 'CONFLICT', reason: 'duplicate' });
        expect(twice.row).to.be.oneOf([0, 1]);
        const lost = { ...newVessel, operatorId: 99 };
        const reference = await told(store.createAll('vessel', batches([newVessel, lost], [newVessel])));
        expect(reference).to.deep.include({ reason: 'reference', columns: ['operatorId'], row: 1 });
        const failing = async function* () {
          yield fine;
          throw new Error('the source broke');
        };
        expect(await refusal(store.createAll('operator', failing()))).to.include({
          message: 'the source broke',
        });
        const aborted = AbortSignal.abort(new Error('given up'));
        const late = store.createAll('operator', batches(fine), { signal: aborted });
        expect(await refusal(late)).to.include({ message: 'given up' });
        expect([await names('operator'), await names('vessel')]).to.deep.equal([3, 5]);
      });

      it('nothing of what does not fit: the conflict names the columns', async () => {
        const cases: [() => Promise<unknown>, object][] = [
          [
            () => store.create('operator', { name: 'Ostwick' }),
            { reason: 'duplicate', entity: 'operator', columns: ['name'] },
          ],
          [
            () => store.create('vessel', { ...newVessel, operatorId: 99 }),
            { reason: 'reference', entity: 'vessel', columns: ['operatorId'] },
          ],
          [
            () => store.create('vessel', { name: 'Half' }),
            { reason: 'missing', entity: 'vessel', columns: ['kind'] },
          ],
          [
            () =>
              store.create('vessel', {
                ...newVessel,
                operator: { name: 'Brand New' },
                portCalls: [{ id: callId(1), eta: new Date(), status: 'sailed' }],
              }),
            { reason: 'duplicate', entity: 'portCall', columns: ['id'] },
          ],
        ];
        for (const [work, expected] of cases) {
          const { columns, ...rest } = expected as { columns: string[] };
          const told = (await refusal(work())) as { columns: string[] };
          expect(told).to.include({ code: 'CONFLICT', ...rest });
          expect(told.columns).to.deep.equal(columns);
        }
        expect(await names('vessel')).to.equal(5);
        expect(await names('operator')).to.equal(3);
        expect(await names('portCall')).to.equal(4);
      });
    });

    describe('amends', () => {
      it('what the change names and nothing else', async () => {
        expect(await store.amend('vessel', [1], { name: 'Renamed', callSign: null })).to.equal(true);
        const row = await store.read(loadPlan(VesselRow), [1]);
        expect(writer(VesselRow).object(row ?? {})).to.include({
          name: 'Renamed',
          callSign: null,
          kind: 'tanker',
          operatorId: 2,
        });
        expect(await store.amend('vessel', [1], {})).to.equal(true);
        expect(await store.amend('vessel', [99], { name: 'Nobody' })).to.equal(false);
      });

      it('nested rows: many take the place of those before, one is changed or made', async () => {
        const portCalls = [{ id: callId(31), eta: new Date('2026-09-01T06:00:00Z'), status: 'announced' }];
        expect(
          await store.amend('vessel', [2], { portCalls, operator: { name: 'Lantern Bay Holding' } }),
        ).to.equal(true);
        const made = (await tree(2)) as { operator: string; calls: { id: string }[] };
        expect(made.operator).to.equal('Lantern Bay Holding');
        expect(made.calls.map(({ id }) => id)).to.deep.equal([callId(31)]);
        expect(await names('operator')).to.equal(3);
        expect(await store.amend('vessel', [4], { operator: { name: 'Dunlin Ltd' } })).to.equal(true);
        expect(((await tree(4)) as { operator: string }).operator).to.equal('Dunlin Ltd');
        expect(await store.amend('portCall', [callId(3)], { pilots: [] })).to.equal(true);
        expect(await names('pilotage')).to.equal(2);
        expect(await names('pilot')).to.equal(2);
      });

      it('lists that are replaced, with what is nested in them', async () => {
        const replaced = callsOf(9).map((call, n) => ({
          ...call,
          pilots: [{ id: 1 }, { name: `New ${n}` }],
        }));
        await store.amend('portCall', [callId(2)], { pilots: [] });
        await store.amend('portCall', [callId(3)], { pilots: [{ id: 2 }, { id: 1 }] });
        expect(await names('pilotage')).to.equal(2);
        await store.amend('portCall', [callId(3)], { pilots: [] });
        expect(await store.amend('vessel', [1], { portCalls: replaced, name: 'Anselma II' })).to.equal(true);
        const [anselma] = writer(list(VesselDeep)).object(
          await store.list(loadPlan(VesselDeep), { where: [where('id', 'equals', 1)] }),
        );
        expect(anselma?.name).to.equal('Anselma II');
        expect(anselma?.calls.map(({ id }) => id)).to.deep.equal(replaced.map(({ id }) => id));
        expect(anselma?.calls.map(({ pilots }) => pilots.map(({ name: pilot }) => pilot))).to.deep.equal(
          replaced.map((_call, n) => ['Ines', `New ${n}`]),
        );
        // A row that another one still needs is not taken away: all stays as it was.
        const told = await refusal(store.amend('vessel', [1], { name: 'X', portCalls: [] }));
        expect(told).to.include({ code: 'CONFLICT', reason: 'reference' });
        expect(((await tree(1)) as { name: string }).name).to.equal('Anselma II');
      });

      it('rows in a row of to-one links: the last one that is there is changed, those behind it are made', async () => {
        const change = { operator: { name: 'Ostwick & Sons', parent: { name: 'Ostwick Group' } } };
        expect(await store.amend('vessel', [3], change)).to.equal(true);
        expect(await tree(3)).to.include({ operator: 'Ostwick & Sons', group: 'Ostwick Group' });
        expect(await names('operator')).to.equal(4);
        expect(
          await store.amend('vessel', [3], { operator: { parent: { name: 'Ostwick Trust' } } }),
        ).to.equal(true);
        expect(await tree(3)).to.include({ operator: 'Ostwick & Sons', group: 'Ostwick Trust' });
        expect(await names('operator')).to.equal(4);
        const both = { operator: { name: 'Dunlin Ltd', parent: { name: 'Dunlin Group' } } };
        expect(await store.amend('vessel', [4], both)).to.equal(true);
        expect(await tree(4)).to.include({ operator: 'Dunlin Ltd', group: 'Dunlin Group' });
        expect(await names('operator')).to.equal(6);
      });

      it('nothing where its guard does not hold', async () => {
        const change = { name: 'Renamed' };
        expect(
          await store.amend('vessel', [1], change, { where: [where('kind', 'equals', 'tug')] }),
        ).to.equal(false);
        const seen: unknown[] = [];
        const row = (stored: object): void => {
          seen.push(writer(VesselTree).object(stored));
          throw new Error('changed meanwhile');
        };
        const guarded = store.amend('vessel', [1], change, { check: { plan: loadPlan(VesselTree), row } });
        expect(
          await guarded.then(
            () => '',
            (error: Error) => error.message,
          ),
        ).to.equal('changed meanwhile');
        expect(seen).to.deep.equal([await tree(1)]);
        expect(((await tree(1)) as { name: string }).name).to.equal('Anselma');
        const allowed = { check: { plan: loadPlan(VesselName), row: () => undefined } };
        expect(await store.amend('vessel', [1], change, allowed)).to.equal(true);
        expect(await store.amend('vessel', [99], change, allowed)).to.equal(false);
      });

      it('nothing of what does not fit', async () => {
        const told = await refusal(store.amend('vessel', [1], { name: 'X', operatorId: 99 }));
        expect(told).to.include({ code: 'CONFLICT', reason: 'reference' });
        const twice = await refusal(store.amend('operator', [3], { name: 'Lantern Bay' }));
        expect(twice).to.include({ code: 'CONFLICT', reason: 'duplicate' });
        expect(await store.amend('operator', [3], { name: 'Ostwick' })).to.equal(true);
        expect(((await tree(1)) as { name: string }).name).to.equal('Anselma');
      });
    });

    describe('removes', () => {
      it('a row, once', async () => {
        expect(await store.remove('vessel', [5])).to.equal(true);
        expect(await store.remove('vessel', [5])).to.equal(false);
        expect(await ids({})).to.deep.equal([1, 2, 3, 4]);
      });

      it('no row that others need, or whose guard does not hold', async () => {
        expect(await refusal(store.remove('vessel', [1]))).to.include({
          code: 'CONFLICT',
          reason: 'reference',
        });
        expect(await store.remove('vessel', [5], { where: [where('kind', 'equals', 'bulk')] })).to.equal(
          false,
        );
        expect(await names('vessel')).to.equal(5);
      });
    });

    describe('does work in one transaction', () => {
      /** The store's own: every store of the library has it. */
      const transaction = <T>(work: (within: Store) => Promise<T>): Promise<T> => {
        if (store.transaction === undefined) throw new Error('the store has no transactions');
        return store.transaction(work);
      };
      const steps = [
        (within: Store) => within.create('operator', { name: 'Sallow Ferries' }),
        (within: Store) => within.amend('vessel', [1], { name: 'Renamed' }),
        (within: Store) => within.remove('vessel', [5]),
      ];
      const seen = async (within: Store) => ({
        operators: await within.count('operator'),
        vessels: await within.count('vessel'),
        first: await within
          .read(loadPlan(VesselName), [1])
          .then((row) => row && writer(VesselName).object(row as never)),
      });

      it('and stores all of it, which it sees meanwhile', async () => {
        const before = await seen(store);
        const inside = await transaction(async (within) => {
          for (const step of steps) await step(within);
          return seen(within);
        });
        expect(inside).to.deep.equal({
          operators: before.operators + 1,
          vessels: before.vessels - 1,
          first: { id: 1, name: 'Renamed' },
        });
        expect(await seen(store)).to.deep.equal(inside);
      });

      it('and stores nothing of it where it throws, wherever that is', async () => {
        const before = await seen(store);
        for (let at = 0; at <= steps.length; at++) {
          const broken = transaction(async (within) => {
            for (const step of steps.slice(0, at)) await step(within);
            throw new Error(`broken at ${at}`);
          });
          const told = await broken.then(
            () => '',
            (error: Error) => error.message,
          );
          expect(told).to.equal(`broken at ${at}`);
          expect(await seen(store)).to.deep.equal(before);
        }
      });

      it('and goes on after a change that did not fit, of which nothing is left', async () => {
        const before = await seen(store);
        await transaction(async (within) => {
          await within.amend('vessel', [1], { name: 'Renamed' });
          const both = { name: 'Not stored', vessels: [{ name: 'No operator' }] };
          const told = await refusal(within.create('operator', { ...both, parentId: 99 }));
          expect(told).to.include({ code: 'CONFLICT' });
          expect(await refusal(within.amend('operator', [3], { name: 'Lantern Bay' }))).to.include({
            reason: 'duplicate',
          });
          await within.remove('vessel', [5]);
        });
        expect(await seen(store)).to.deep.equal({
          ...before,
          vessels: before.vessels - 1,
          first: { id: 1, name: 'Renamed' },
        });
      });

      it('as a part of the one that is open: taken back alone, or with the whole', async () => {
        const before = await seen(store);
        await transaction(async (within) => {
          await within.amend('vessel', [1], { name: 'Kept' });
          const part = within.transaction?.(async (inner) => {
            await inner.amend('vessel', [1], { name: 'Not kept' });
            await inner.create('operator', { name: 'Not kept' });
            throw new Error('of the part');
          });
          expect(await part?.catch((error: Error) => error.message)).to.equal('of the part');
          await within.transaction?.((inner) => inner.remove('vessel', [5]));
        });
        expect(await seen(store)).to.deep.equal({
          ...before,
          vessels: before.vessels - 1,
          first: { id: 1, name: 'Kept' },
        });
        const whole = transaction(async (within) => {
          await within.transaction?.((inner) => inner.amend('vessel', [1], { name: 'Not kept' }));
          throw new Error('of the whole');
        });
        expect(await whole.catch((error: Error) => error.message)).to.equal('of the whole');
        expect((await seen(store)).first).to.deep.equal({ id: 1, name: 'Kept' });
      });

      it('with all that is asked at once', async () => {
        await transaction((within) =>
          Promise.all([
            within.amend('vessel', [1], { name: 'First' }),
            within.amend('vessel', [2], { name: 'Second' }),
            within.list(loadPlan(VesselName)),
            within.create('operator', { name: 'Third' }),
          ]),
        );
        const rows = (await store.list(loadPlan(VesselName), { limit: 2 })) as { name: string }[];
        expect(rows.map(({ name }) => name)).to.deep.equal(['First', 'Second']);
      });
    });
  });
};
