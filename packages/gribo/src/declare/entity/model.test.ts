import { expect } from 'chai';
import {
  api,
  DeclarationError,
  decimal,
  endpoint,
  entity,
  integer,
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
