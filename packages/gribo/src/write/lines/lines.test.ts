import { expect } from 'chai';
import {
  audience,
  bytes,
  constant,
  csvLines,
  decimal,
  entity,
  first,
  given,
  integer,
  json,
  jsonLines,
  list,
  model,
  page,
  shape,
  text,
  toMany,
  toOne,
  unlessNull,
  wrap,
} from '../../index.js';
import { ENGINES, thrownBy } from '../../testing/engines.js';

const db = model(
  {
    ship: entity('ship', {
      id: integer().key(),
      name: text(),
      note: text().nullable(),
      tonnage: decimal(12, 2),
      extra: json<unknown>().nullable(),
      seal: bytes(),
      homeId: integer().nullable(),
    }),
    port: entity('port', { id: integer().key(), name: text(), at: text().nullable() }),
    call: entity('call', { id: integer().key(), shipId: integer(), berth: text() }),
  },
  { ship: { home: toOne('port', 'homeId'), calls: toMany('call', 'shipId') } },
);

const Port = shape(db.port, ({ name, at }) => ({ name, at }));
const Call = shape(db.call, ({ id, berth }) => ({ id, berth }));
const Ship = shape(db.ship, (s) => ({
  id: s.id,
  named: { name: s.name, note: unlessNull(s.note) },
  size: given(audience('agent'), { tonnage: s.tonnage, extra: s.extra }),
  home: Port(s.home),
  calls: Call(s.calls),
  first: first(s.calls, Call),
  seal: s.seal,
  kind: constant('ship'),
}));

const row = {
  id: 1,
  homeId: 2,
  name: 'Anselma, "the old"',
  note: null,
  tonnage: '-4.50',
  extra: { a: [1, 'x'] },
  seal: Uint8Array.of(251, 239),
  home: { name: '=1+1', at: '' },
  calls: [
    { id: 5, shipId: 1, berth: 'north, "2"' },
    { id: 6, shipId: 1, berth: 'Ö\r\n' },
  ],
};
const bare = { ...row, name: '-x', extra: null, home: null, calls: [], seal: new Uint8Array() };

const HEAD = 'id,named.name,named.note,home.name,home.at,calls,first.id,first.berth,seal,kind\r\n';

const textOf = (written: Uint8Array): string => Buffer.from(written).toString('utf8');

describe('csvLines and jsonLines', () => {
  for (const engine of ENGINES) {
    it(`write a header with dotted names, and each row as a line: ${engine}`, () => {
      const csv = csvLines(list(Ship), {}, { engine });
      expect(csv.engine).to.equal(engine);
      expect(csv.because).to.equal(engine === 'generated' ? null : 'it was asked for');
      expect(textOf(csv.bytes([]))).to.equal(HEAD);
      expect(textOf(csv.bytes([row, bare]))).to.equal(
        [
          HEAD,
          '1,"Anselma, ""the old""",,=1+1,"",',
          '"[{""id"":5,""berth"":""north, \\""2\\""""},{""id"":6,""berth"":""Ö\\r\\n""}]",',
          '5,"north, ""2""",++8=,ship\r\n',
          '1,-x,,,,[],,,"",ship\r\n',
        ].join(''),
      );
      const agents = csvLines(Ship, { audience: 'agent', fields: ['size', 'calls'] }, { engine });
      expect(textOf(agents.bytes([bare]))).to.equal('size.tonnage,size.extra,calls\r\n-4.50,,[]\r\n');
      const calls = [{ id: 1, berth: 'x' }];
      expect(textOf(csvLines(Ship, { fields: ['calls'] }, { engine }).bytes([{ ...row, calls }]))).to.equal(
        'calls\r\n"[{""id"":1,""berth"":""x""}]"\r\n',
      );
    });

    it(`guard what a spreadsheet would run, and leave digits alone: ${engine}`, () => {
      const guarded = csvLines(Ship, { audience: 'agent' }, { engine, guardFormulas: true });
      const [, one = '', other = ''] = textOf(guarded.bytes([{ ...row, calls: [] }, bare])).split('\r\n');
      expect(one).to.equal(`1,"Anselma, ""the old""",,-4.50,"{""a"":[1,""x""]}",'=1+1,"",[],,,'++8=,ship`);
      expect(other).to.equal(`1,'-x,,-4.50,,,,[],,,"",ship`);
    });

    it(`write the rows of any body: ${engine}`, () => {
      const bodies = [Ship, list(Ship), page(Ship, {}), wrap(list(Ship), (content) => ({ data: content }))];
      const texts = bodies.map((body) => textOf(jsonLines(body, {}, { engine }).bytes([row, bare] as never)));
      expect(new Set(texts).size).to.equal(1);
      expect(
        texts[0]
          ?.trimEnd()
          .split('\n')
          .map((line) => JSON.parse(line).named),
      ).to.deep.equal([{ name: 'Anselma, "the old"' }, { name: '-x' }]);
    });
  }

  it('say which row does not fit, and take only rows', () => {
    const csv = csvLines(list(Ship));
    const wrong = thrownBy(() => csv.bytes([row, { ...row, home: 5 as never }])) as Error;
    expect(wrong.message).to.contain('ship[1].home: expected a row of port');
    const none = thrownBy(() => csv.bytes(5 as never)) as Error;
    expect(none.message).to.contain('expected an array of rows');
  });

  it('are kept, and know a guard from none', () => {
    const names = csvLines(Ship, { fields: ['named.name'] });
    const guarded = csvLines(Ship, { fields: ['named.name'] }, { guardFormulas: true });
    expect(textOf(names.bytes([bare]))).to.contain('\r\n-x');
    expect(textOf(guarded.bytes([bare]))).to.contain("\r\n'-x");
    expect(csvLines(Ship, { fields: ['named.name'] }).plan).to.equal(names.plan);
  });
});
