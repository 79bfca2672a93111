import { expect } from 'chai';
import { list, loadPlan, type Store, writer } from 'gribo';
import { figures } from 'gribo/kit';
import { harbourData } from './data.js';
import { FILLED, fingerprint } from './database.js';
import { OperatorDetail, PortCallDetail, QuayTree, VesselCards, VesselDetail } from './shapes.js';
import { harbourStore } from './store.js';

describe('rows of the embedded database', () => {
  let store: Store;
  before(async () => {
    store = await harbourStore();
  });
  after(() => store.close?.());

  it('are those of its name, which tells a dump of today from an older one', () => {
    expect(FILLED.split('-')[0]).to.equal(fingerprint(harbourData()));
  });

  it('go out as the shape says, renamed and flattened, null where there is nobody', async () => {
    const rows = await store.list(loadPlan(VesselCards), { limit: 4 });
    const cards = writer(VesselCards).object(rows);
    expect(cards[0]).to.deep.equal({
      id: 1,
      name: 'Anselma',
      callSign: 'MR100',
      kind: 'bulk',
      flag: 'XV',
      operatorName: 'Ostwick Bulk',
    });
    expect(cards[3]?.operatorName).to.equal(null);
  });

  it('hold nothing that the shape does not need', async () => {
    const [row] = await store.list(loadPlan(VesselCards), { limit: 1 });
    expect(row).to.have.all.keys('id', 'name', 'callSign', 'kind', 'flagState', 'operatorId', 'operator');
    expect(row).to.have.property('operator').that.has.all.keys('id', 'name');
  });

  it('are nested over to-many and many-to-many links', async () => {
    const situation = { audience: 'harbourMaster', asked: ['cargo'] };
    const calls = await store.list(loadPlan(list(PortCallDetail), situation));
    const written = writer(list(PortCallDetail), situation).object(calls);
    expect(written).to.have.length(120);
    expect(written.some((call) => call.pilots?.length === 2)).to.equal(true);
    expect(
      written.flatMap((call) => call.cargo ?? []).some(({ weightKg }) => weightKg === '9007199254740993'),
    ).to.equal(true);
    expect(written.find((call) => call.dues?.amount === 1250)).to.not.equal(undefined);
  });

  it('are counted in the database', async () => {
    const rows = await store.list(loadPlan(list(OperatorDetail)));
    expect(rows[0]).to.not.have.property('vessels');
    expect(Reflect.get(rows[0] ?? {}, figures)).to.have.property('vessels');
    const fleets = writer(list(OperatorDetail))
      .object(rows)
      .map(({ fleet }) => fleet);
    // Six of the forty vessels have no operator.
    expect(fleets.reduce((sum, fleet) => sum + fleet, 0)).to.equal(34);
    const lines = writer(list(OperatorDetail)).object(rows);
    expect(lines.find(({ name }) => name === 'Lantern Bay Ferries')?.group).to.equal('Lantern Bay Holding');
  });

  it('contain themselves', async () => {
    const [outer] = writer(list(QuayTree)).object(await store.list(loadPlan(list(QuayTree))));
    expect(outer?.parts?.[0]?.parts?.[0]).to.deep.equal({ id: 3, name: 'Lantern Quay East', berths: 2 });
  });

  it('contain what real data contains', async () => {
    const vessels = writer(list(VesselDetail)).object(await store.list(loadPlan(list(VesselDetail))));
    expect(vessels.find(({ name }) => name === 'Moorhen')?.portCalls).to.deep.equal([]);
    expect(vessels.find(({ name }) => name === 'Saltmarsh Queen')?.registeredOn).to.equal('1968-04-02');
    expect(vessels.map(({ name }) => name)).to.include.members([
      'Curlew\nCall',
      'Дальний свет',
      '潮風',
      'Fulmar 🐦',
      'Amber "Nan"',
    ]);
  });
});
