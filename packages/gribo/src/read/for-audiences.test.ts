import { expect } from 'chai';
import {
  all,
  amending,
  any,
  api,
  asked,
  audience,
  collection,
  compare,
  contractOf,
  type DeclarationError,
  entity,
  equals,
  given,
  input,
  integer,
  jsonSchema,
  list,
  memoryStore,
  model,
  not,
  openApi,
  optional,
  preset,
  reader,
  review,
  samples,
  shape,
  text,
  toMany,
  toOne,
  typesSource,
} from '../index.js';
import { settledInput, unsetColumns } from '../kit.js';

const db = model(
  {
    berth: entity('berth', {
      id: integer().key().generated(),
      name: text(),
      depth: integer(),
      tariff: text().nullable(),
      note: text().defaulted(),
    }),
    bollard: entity('bollard', {
      id: integer().key().generated(),
      berthId: integer(),
      load: integer().nullable(),
      owner: text().defaulted(),
    }),
  },
  {
    berth: { bollards: toMany('bollard', ['berthId']) },
    bollard: { berth: toOne('berth', 'berthId') },
  },
);

const NewBollard = input(
  db.bollard,
  (b) => ({ load: optional(b.load), owner: given(audience('office'), optional(b.owner)) }),
  { name: 'NewBollard' },
);
const NewBerth = input(
  db.berth,
  (b) => ({
    name: b.name,
    depth: preset(b.depth, 5),
    money: given(any(audience('office'), audience('cashier')), { tariff: b.tariff }),
    note: given(not(audience('public')), optional(b.note)),
    bollards: optional(NewBollard(b.bollards)),
  }),
  { name: 'NewBerth' },
);

const messages = (declare: () => unknown): readonly string[] => {
  try {
    declare();
  } catch (error) {
    return (error as DeclarationError).findings.map(({ path, message }) => `${path}: ${message}`);
  }
  return [];
};

describe('members of inputs for some audiences', () => {
  const full = { name: 'Quay 1', depth: 7, money: { tariff: 'A' }, note: 'n', bollards: [{ owner: 'we' }] };

  for (const engine of ['generated', 'interpreted'] as const) {
    it(`are read from those, and unknown to the others (${engine})`, () => {
      const read = (whom: string | null, body: object) =>
        reader(NewBerth, {}, { engine, audience: whom }).object(body);
      expect(read('office', full)).to.deep.equal({
        ok: true,
        value: { name: 'Quay 1', depth: 7, tariff: 'A', note: 'n', bollards: [{ owner: 'we' }] },
      });
      const wrong = read('public', full);
      expect(wrong.ok ? [] : wrong.issues.map(({ pointer, code }) => `${pointer} ${code}`)).to.have.members([
        '/money unknown',
        '/note unknown',
        '/bollards/0/owner unknown',
      ]);
      expect(read(null, { name: 'a', note: 'n' })).to.deep.equal({
        ok: true,
        value: { name: 'a', depth: 5, note: 'n' },
      });
      expect(
        reader(NewBerth, { unknown: 'ignore' }, { engine, audience: 'public' }).object(full),
      ).to.deep.equal({
        ok: true,
        value: { name: 'Quay 1', depth: 7, bollards: [{}] },
      });
    });
  }

  it('have to be there where they are there', () => {
    const read = reader(NewBerth, {}, { audience: 'office' }).object({ name: 'a' });
    expect(read.ok ? [] : read.issues.map(({ pointer, code }) => `${pointer} ${code}`)).to.deep.equal([
      '/money required',
    ]);
    expect(reader(NewBerth).object({ name: 'a' }).ok).to.equal(true);
  });

  it('are near to no name of those who do not have them', () => {
    const read = reader(NewBerth, {}, { audience: 'public' }).object({ name: 'a', notes: '' });
    expect(JSON.stringify(read)).to.not.contain('note"').and.not.contain('"note');
  });

  it('stay so in a merge patch, and no name is told that was left out of it', () => {
    const Edit = amending(NewBerth, ({ name, note: _note, ...rest }) => ({ name, ...rest }), {
      name: 'Edit',
    });
    expect(reader(Edit, {}, { audience: 'office' }).object({ money: { tariff: 'B' } })).to.deep.equal({
      ok: true,
      value: { tariff: 'B' },
    });
    const wrong = reader(Edit, {}, { audience: 'public' }).object({ money: { tariff: 'B' }, note: '' });
    expect(wrong.ok ? [] : wrong.issues.map(({ code }) => code)).to.deep.equal(['unknown', 'unknown']);
  });

  it('are settled once for all who have the same', () => {
    const { plan } = NewBerth;
    expect(settledInput(plan, 'office')).to.equal(settledInput(plan, 'office'));
    expect(settledInput(plan, 'a')).to.equal(settledInput(plan, 'b'));
    expect(settledInput(plan, 'cashier')).to.not.equal(settledInput(plan, 'office'));
    const Plain = input(db.berth, (b) => ({ name: b.name }));
    expect(settledInput(Plain.plan, 'office')).to.equal(Plain.plan);
  });

  it('are refused where rows or what is asked would decide', () => {
    const sentence = 'what comes in is there for audiences or not: given(audience(…), v.column)';
    expect(
      messages(() =>
        input(db.berth, (b) => ({
          // @ts-expect-error a row would decide
          name: given(equals(b.depth, 3), b.name),
          // @ts-expect-error what is asked would decide
          depth: given(all(audience('office'), asked('more')), b.depth),
        })),
      ),
    ).to.deep.equal([`berth.name: ${sentence}`, `berth.depth: ${sentence}`]);
    expect(
      messages(() => input(db.berth, (b) => ({ id: given(audience('office'), b.id as never) }))),
    ).to.deep.equal(['berth.id: id is made by the database: leave it out, or say assigned(v.id)']);
    expect(
      messages(() =>
        input(db.berth, (b) => ({ a: given(audience('x'), b.name), b: given(audience('y'), b.name) })),
      ),
    ).to.deep.equal(['berth.b: sets name, as berth.a does']);
  });

  it('have presets that are looked at', () => {
    const broken = () =>
      input(db.berth, (b) => ({ depth: given(audience('office'), preset(b.depth, 'deep' as never)) }));
    expect(messages(broken)[0]).to.contain('berth.depth: its preset would be refused');
  });

  const Line = shape(db.berth, (b) => ({ id: b.id, name: b.name }), { name: 'Line' });
  const harbour = (declared = NewBerth) =>
    api({
      title: 'Berths',
      version: '1.0.0',
      audiences: ['office', 'cashier', 'public'],
      endpoints: {
        berths: collection('/berths', db.berth, {
          list: list(Line),
          create: { takes: declared, returns: Line },
          audiences: { create: ['office', 'cashier', 'public'] },
        }),
      },
    });

  it('are in contract, schemas, documents and types for those who have them', () => {
    const contract = contractOf(harbour());
    expect(contract.endpoints.find(({ name }) => name === 'berths.create')?.takes).to.deep.equal([
      { audiences: ['office'], input: 'NewBerth' },
      { audiences: ['cashier'], input: 'NewBerth.cashier' },
      { audiences: ['public'], input: 'NewBerth.public' },
    ]);
    expect(contract.inputs['NewBerth.public']?.members.map(({ name }) => name)).to.deep.equal([
      'name',
      'depth',
      'bollards',
    ]);
    const schema = jsonSchema(NewBerth, { audience: 'public' });
    expect(JSON.stringify(schema)).to.not.contain('tariff').and.not.contain('note');
    const store = memoryStore(db, samples(db, { seed: 1 }));
    const document = JSON.stringify(openApi(harbour(), { examples: store }));
    expect(document).to.contain(
      '"anyOf":[{"$ref":"#/components/schemas/NewBerth","description":"For office."',
    );
    expect(JSON.stringify(openApi(harbour(), { audience: 'public', examples: store }))).to.not.contain(
      'tariff',
    );
    expect(typesSource(contract)).to.contain(
      '"berths.create": { readonly office: NewBerth; readonly cashier: NewBerthCashier; readonly public: NewBerthPublic }',
    );
  });

  it('are told apart by audience where they change', () => {
    const before = harbour(
      input(
        db.berth,
        (b) => ({ name: b.name, depth: b.depth, note: given(audience('office'), optional(b.note)) }),
        { name: 'NewBerth' },
      ) as never,
    );
    const after = harbour(
      input(db.berth, (b) => ({ name: b.name, depth: b.depth, note: optional(b.note) }), {
        name: 'NewBerth',
      }) as never,
    );
    const told = (one: typeof before, other: typeof before) =>
      compare(contractOf(one), contractOf(other)).differences.map(
        ({ effect, code, reach }) => `${effect} ${code} ${reach.flatMap(({ audiences }) => audiences)}`,
      );
    expect(told(before, after)).to.deep.equal(['safe member-added cashier,public']);
    expect(told(after, before)).to.deep.equal(['breaking member-removed cashier,public']);
  });

  it('are missed where a row cannot be made without them', () => {
    const Short = input(db.berth, (b) => ({ name: b.name, depth: given(audience('office'), b.depth) }));
    const declared = harbour(Short as never);
    const create = declared.plan.endpoints.find(({ operation }) => operation === 'create');
    if (create === undefined) throw new Error('there is no create');
    expect(unsetColumns(create, 'office')).to.deep.equal([]);
    expect(unsetColumns(create, 'public')).to.deep.equal(['depth']);
    const [found] = review(declared).findings.filter(({ code }) => code === 'never-created');
    expect(found?.message).to.equal(
      'Its input does not set depth for cashier, public, without which there is no row of berth.',
    );
  });
});
