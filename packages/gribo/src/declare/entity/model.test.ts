import { expect } from 'chai';
import {
  api,
  array,
  bool,
  collection,
  DeclarationError,
  decimal,
  endpoint,
  entity,
  input,
  integer,
  json,
  list,
  model,
  oneOf,
  shape,
  text,
  toMany,
  toOne,
  uuid,
} from '../../index.js';
import { declarationError, thrownBy } from '../../testing/engines.js';

// biome-ignore lint/suspicious/noExplicitAny: wrong declarations are the point
type Any = any;

const berth = entity('berth', { quayId: integer().key(), number: integer().key(), maxLengthM: integer() });
const call = entity('portCall', {
  id: uuid().key(),
  quayId: integer().nullable(),
  berthNumber: integer().nullable(),
});

describe('entity', () => {
  it('lists everything that is wrong with its columns', () => {
    const message = declarationError(() =>
      entity('thing', {
        a: integer({ min: 5, max: 1 }),
        b: decimal(4, 9),
        c: text({ pattern: /x/g }),
        d: oneOf('x', 'x'),
        e: 'text' as Any,
        f: integer().key().nullable(),
        g: text().sealed(''),
        h: decimal(0, 0),
      }),
    );
    expect(message.split('\n')).to.deep.equal([
      'entity "thing": 8 things are wrong',
      '  thing.a: its min 5 is above its max 1',
      '  thing.b: its scale must be between 0 and its precision 4',
      '  thing.c: its pattern must not have the flags g or y',
      '  thing.d: it names a choice twice',
      '  thing.e: expected a column such as text() or integer()',
      '  thing.f: a key cannot be nullable',
      '  thing.g: say why it is sealed: sealed("personal")',
      '  thing.h: its precision must be 1 or more',
    ]);
    expect(declarationError(() => entity('x', { a: text() }))).to.contain('it has no key');
    expect(declarationError(() => entity('x', { __proto__: text() } as Any))).to.contain(
      'plain object of columns',
    );
  });

  it('never changes a column: each modifier makes another', () => {
    const id = integer();
    const { settings } = id;
    expect([Object.isFrozen(id), Object.isFrozen(settings)]).to.deep.equal([true, true]);
    expect([id.key().settings.key, settings.key]).to.deep.equal([true, false]);
  });

  it('has no column or link that is called like what every object has', () => {
    for (const name of ['constructor', 'toString', 'valueOf', '__proto__', 'hasOwnProperty']) {
      const message = declarationError(() => entity('x', { id: integer().key(), [name]: text() } as Any));
      expect(message).to.contain(`x.${name}: every object has something called ${name}`);
      expect(message).to.contain(`.stored("${name}")`);
    }
    const x = entity('x', { id: integer().key(), maker: text().stored('constructor') });
    expect(model({ x }, {}).x.entity.columns[1]?.stored).to.equal('constructor');
    const links = { x: { constructor: toOne('x', 'id') } };
    expect(declarationError(() => model({ x }, links as Any))).to.contain('every object has something');
  });
});

describe('model', () => {
  it('stores names in snake_case, unless told otherwise', () => {
    const odd = entity('portCall', {
      id: integer().key(),
      maxLengthM: integer(),
      imoNumber: text().stored('imo'),
    });
    const { table, columns } = model({ portCall: odd }, {}).portCall.entity;
    expect([table, ...columns.map((column) => column.stored)]).to.deep.equal([
      'port_call',
      'id',
      'max_length_m',
      'imo',
    ]);
    const same = model({ portCall: odd }, {}, { columnNames: 'same' }).portCall.entity;
    expect([same.table, ...same.columns.map((column) => column.stored)]).to.deep.equal([
      'portCall',
      'id',
      'maxLengthM',
      'imo',
    ]);
    const named = entity('vessel', { id: integer().key() }, { stored: 'vessels' });
    expect(model({ vessel: named }, {}).vessel.entity.table).to.equal('vessels');
  });

  it('links over composite keys', () => {
    const db = model(
      { berth, portCall: call },
      {
        portCall: { berth: toOne('berth', ['quayId', 'berthNumber']) },
        berth: { calls: toMany('portCall', ['quayId', 'berthNumber']) },
      },
    );
    expect(db.portCall.links.get('berth')).to.deep.include({
      from: ['quayId', 'berthNumber'],
      to: ['quayId', 'number'],
      nullable: true,
    });
    expect(db.berth.links.get('calls')).to.deep.include({
      from: ['quayId', 'number'],
      to: ['quayId', 'berthNumber'],
      nullable: false,
    });
  });

  it('lists everything that is wrong with its links', () => {
    const pilotage = entity('pilotage', { portCallId: uuid().key(), pilotId: text().key() });
    const pilot = entity('pilot', { id: integer().key(), name: text() });
    const message = declarationError(() =>
      model({ berth, portCall: call, pilot, pilotage, quay: entity('kay', { id: integer().key() }) }, {
        portCall: {
          berth: toOne('berth', 'quayId'),
          birth: toOne('brth' as Any, 'quayId'),
          column: toOne('berth', ['quayID', 'berthNumber']),
          type: toOne('pilot', 'id'),
          quayId: toOne('pilot', 'quayId'),
          pilots: toMany('pilot', { through: 'pilotage', from: 'portCallId', to: 'pilotId' }),
          others: toMany('pilot', { through: 'pilotages', from: 'portCallId', to: 'pilotId' }),
        },
        vessel: {},
      } as Any),
    );
    expect(message.split('\n')).to.deep.equal([
      'model: 9 things are wrong',
      '  quay: the entity calls itself "kay"; use one name',
      '  vessel: has links, but there is no such entity.',
      '  portCall.berth: the key of berth is "quayId", "number": name 2 columns of portCall, not 1',
      '  portCall.birth: there is no entity "brth". Did you mean "berth"?',
      '  portCall.column: portCall has no column "quayID". Did you mean "quayId"?',
      '  portCall.type: portCall.id is uuid, but pilot.id is integer',
      '  portCall.quayId: a column and a link have the same name; rename the link',
      '  portCall.pilots: pilotage.pilotId is text, but pilot.id is integer',
      '  portCall.others: there is no entity "pilotages". Did you mean "pilotage"?',
    ]);
  });

  it('gives its findings one by one', () => {
    const error = thrownBy(() =>
      model({ berth, portCall: call }, { berth: { x: toOne('portCall', 'number') } }),
    );
    expect(error).to.be.instanceOf(DeclarationError);
    expect((error as DeclarationError).findings).to.have.length(1);
    const twice = entity('twice', { id: integer().key(), a: text().stored('id') });
    expect(declarationError(() => model({ twice }, {}))).to.contain('twice.a: stored as "id", as "id" is');
  });
});

describe('endpoint and api', () => {
  const db = model({ berth }, {});
  const Berth = shape(db.berth, ({ number }) => ({ number }));

  it('keep the method, the path, its parameters and the body', () => {
    const read = endpoint('GET /berths/{quayId}/{number}', { from: db.berth, returns: Berth });
    const all = endpoint('GET /berths', { from: db.berth, returns: list(Berth) });
    const { endpoints } = api({
      title: 'T',
      version: '1',
      endpoints: { 'berths.read': read, 'berths.list': all },
    }).plan;
    expect(
      endpoints.map(({ name, method, path, parameters }) => [name, method, path, parameters]),
    ).to.deep.equal([
      ['berths.read', 'GET', '/berths/{quayId}/{number}', ['quayId', 'number']],
      ['berths.list', 'GET', '/berths', []],
    ]);
  });

  it('refuse routes that are none, shapes over another entity, and one route twice', () => {
    expect(declarationError(() => endpoint('berths' as Any, { from: db.berth, returns: Berth }))).to.contain(
      'expected a method and a path',
    );
    const other = model({ portCall: call }, {});
    const Call = shape(other.portCall, ({ id }) => ({ id }));
    expect(
      declarationError(() => endpoint('GET /berths', { from: db.berth, returns: Call as Any })),
    ).to.contain('about berth, but returns portCall');
    const one = endpoint('GET /berths/{a}', { from: db.berth, returns: Berth });
    const two = endpoint('GET /berths/{b}', { from: db.berth, returns: Berth });
    expect(declarationError(() => api({ title: 'T', version: '1', endpoints: { one, two } }))).to.contain(
      'two: answers GET /berths/{b}, as one does',
    );
  });
});

describe('columns of arrays and of stored forms', () => {
  const yes = {
    as: text(),
    read: (said: string) => said === 'Y',
    write: (value: boolean) => (value ? 'Y' : 'N'),
  };

  it('say what is wrong with what they are made of', () => {
    const message = declarationError(() =>
      entity('thing', {
        id: integer().key(),
        a: array(json<unknown>()),
        b: array(text().nullable() as Any),
        c: array(bool().coded(yes)),
        d: array(decimal(4, 9)),
        e: array(text(), { min: 3, max: 2 }),
        f: bool().coded({ ...yes, as: text().coded({ as: text(), read: String, write: String }) }),
        g: text().generated().coded({ as: text(), read: String, write: String }),
        h: text().coded({ as: oneOf('x', 'x') as Any, read: String, write: String as Any }),
      }),
    );
    const plain = 'an array holds plain values: say .nullable(), .sealed() and the like of the array itself';
    expect(message.split('\n').slice(1)).to.deep.equal([
      '  thing.a: an array holds no json: make it json()',
      `  thing.b: ${plain}`,
      `  thing.c: ${plain}`,
      '  thing.d: its scale must be between 0 and its precision 4',
      '  thing.e: its min 3 is above its max 2',
      '  thing.f: what it is stored as has no form of its own',
      '  thing.g: what the database makes has the form that it has: leave .generated() or .coded() out',
      '  thing.h: it names a choice twice',
    ]);
  });
});

describe('an entity whose rows are only read', () => {
  const db = model(
    { totals: entity('totals', { id: integer().key(), calls: integer() }, { readOnly: true }) },
    {},
  );
  const Totals = shape(db.totals, ({ id, calls }) => ({ id, calls }));

  it('is in no input, and none of its rows is removed', () => {
    expect(db.totals.entity.readOnly).to.equal(true);
    expect(
      declarationError(() => input(db.totals, ({ calls }) => ({ calls }), { name: 'TotalsIn' })),
    ).to.contain('the rows of totals are only read: take an input over the table that they are made from');
    const removing = () => collection('/totals', db.totals, { read: Totals, remove: true });
    expect(declarationError(removing)).to.contain('the rows of totals are only read');
    expect(collection('/totals', db.totals, { list: list(Totals), read: Totals }).plans.size).to.equal(2);
  });
});

describe('links by pairs of columns', () => {
  const columns = { id: integer().key(), code: text().unique(), other: text(), name: text() };
  const of = (links: Any): Any =>
    model({ a: entity('a', columns), b: entity('b', columns) }, { a: links } as Any);

  it('name what holds and what is held, in any order, and take what is unique', () => {
    const link = of({ b: toOne('b', { other: 'code' }) }).a.links.get('b');
    expect([link.from, link.to, link.nullable, link.reference]).to.deep.equal([
      ['other'],
      ['code'],
      false,
      'here',
    ]);
    const many = of({ bs: toMany('b', { other: 'code' }) }).a.links.get('bs');
    expect([many.from, many.to, many.reference]).to.deep.equal([['code'], ['other'], 'there']);
    const reference = (via: Any): string =>
      of({ b: toOne('b', via, { optional: true }) }).a.links.get('b').reference;
    expect([reference('id'), reference({ other: 'code' })]).to.deep.equal(['there', 'none']);
  });

  it('are refused where several rows may be meant, or there is no such column', () => {
    expect(declarationError(() => of({ b: toOne('b', { other: 'name' }) }))).to.contain(
      'b.name may be the same in several rows: make it .unique(), or link toMany',
    );
    expect(declarationError(() => of({ b: toOne('b', { other: 'cod' }) }))).to.contain(
      'b has no column "cod". Did you mean "code"?',
    );
    expect(declarationError(() => of({ b: toOne('b', { other: 'id' }) }))).to.contain(
      'a.other is text, but b.id is integer',
    );
  });
});
