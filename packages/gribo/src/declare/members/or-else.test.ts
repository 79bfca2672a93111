import { expect } from 'chai';
import {
  bigint,
  bool,
  bytes,
  constant,
  decimal,
  entity,
  integer,
  jsonSchema,
  list,
  loadPlan,
  model,
  oneOf,
  orElse,
  real,
  shape,
  shorten,
  text,
  timestamp,
  upper,
  uuid,
} from '../../index.js';
import { declarationError, writeError, writtenRow } from '../../testing/engines.js';
import { bareVesselRow, fleet, vesselRow } from '../../testing/fleet.js';

// biome-ignore lint/suspicious/noExplicitAny: wrong declarations are the point
type Any = any;

describe('orElse', () => {
  it('is the first value that is not null', () => {
    const S = shape(fleet.vessel, (v) => ({
      label: orElse(v.callSign, v.name),
      owner: orElse(v.operator.name, constant('nobody')),
      either: orElse(v.operator.parentId, v.operatorId),
      far: orElse(v.operator.parent.name, orElse(v.operator.name, v.name)),
      kind: orElse(v.callSign, v.kind),
      short: orElse(upper(v.callSign), shorten(v.name, 3)),
    }));
    expect(writtenRow(S, vesselRow)).to.deep.equal({
      label: 'QA1',
      owner: 'Lantern Bay',
      either: 3,
      far: 'Lantern Bay',
      kind: 'QA1',
      short: 'QA1',
    });
    expect(writtenRow(S, bareVesselRow)).to.deep.equal({
      label: 'Anselma',
      owner: 'nobody',
      either: null,
      far: 'Anselma',
      kind: 'tanker',
      short: 'An…',
    });
    expect(JSON.stringify(loadPlan(S)))
      .to.contain('call_sign')
      .and.contain('"name"');
  });

  it('is described as what it may be', () => {
    const S = shape(fleet.vessel, (v) => ({
      label: orElse(v.callSign, v.name),
      either: orElse(v.operator.parentId, v.operatorId),
      kind: orElse(v.callSign, v.kind),
    }));
    const schema = jsonSchema(list(S)) as Any;
    expect(Object.values<Any>(schema.$defs)[0].properties).to.deep.equal({
      label: { type: 'string' },
      either: { type: ['integer', 'null'] },
      kind: { type: 'string' },
    });
  });

  it('has a type that holds the values of both', () => {
    const kinds = entity('kinds', {
      id: uuid().key(),
      other: uuid().nullable(),
      word: text({ max: 3 }).nullable(),
      whole: integer({ max: 9 }).nullable(),
      part: real().nullable(),
      price: decimal(10, 2).nullable(),
      exact: decimal(6, 4),
      kind: oneOf('a', 'b').nullable(),
      more: oneOf('b', 'c'),
      big: bigint({ min: 5n }).nullable(),
      huge: bigint(),
      raw: bytes({ max: 4 }).nullable(),
      open: bool().nullable(),
      at: timestamp().nullable(),
      made: timestamp(),
    });
    const S = shape(model({ kinds }, {}).kinds, (k) => ({
      uuids: orElse(k.other, k.id),
      words: orElse(k.other, k.word),
      fixed: orElse(k.word, constant('–')),
      wholes: orElse(k.whole, constant(0)),
      parts: orElse(k.whole, constant(0.5)),
      mixed: orElse(k.part, k.whole),
      prices: orElse(k.price, k.exact),
      kinds: orElse(k.kind, k.more),
      bigs: orElse(k.big, k.huge),
      raws: orElse(k.raw, orElse(k.raw, k.raw)),
      opens: orElse(k.open, constant(false)),
      ats: orElse(k.at, k.made),
    }));
    const types = S.plan.fields.map(({ name, node }) => [name, node.kind === 'derived' ? node.type : null]);
    expect(Object.fromEntries(types)).to.deep.equal({
      uuids: { kind: 'uuid' },
      words: { kind: 'text', min: null, max: null, pattern: null },
      fixed: { kind: 'text', min: null, max: null, pattern: null },
      wholes: { kind: 'integer', min: null, max: null },
      parts: { kind: 'real', min: null, max: null },
      mixed: { kind: 'real', min: null, max: null },
      prices: { kind: 'decimal', precision: 12, scale: 4, min: null, max: null },
      kinds: { kind: 'oneOf', choices: ['a', 'b', 'c'] },
      bigs: { kind: 'bigint', min: null, max: null },
      raws: { kind: 'bytes', max: null },
      opens: { kind: 'bool' },
      ats: { kind: 'timestamp' },
    });
    const nullable = S.plan.fields.map(({ node }) => node.kind === 'derived' && node.nullable);
    expect(nullable).to.deep.equal([
      false,
      true,
      false,
      false,
      false,
      true,
      false,
      false,
      false,
      true,
      false,
      false,
    ]);
  });

  it('reads both, and each has to fit', () => {
    const S = shape(fleet.vessel, (v) => ({ label: orElse(v.callSign, v.name) }), { name: 'S' });
    const { code, path } = writeError(S, { callSign: 'QA1' });
    expect([code, path]).to.deep.equal(['ROW_MISSING', 'S.label']);
  });

  it('refuses what it cannot be made of, and stays sealed', () => {
    const message = declarationError(() =>
      shape(
        fleet.vessel,
        (v: Any): Any => ({
          sure: orElse(v.name, v.callSign),
          kinds: orElse(v.callSign, v.builtYear),
          sealed: orElse(v.callSign, v.masterPhone),
          row: orElse(v.operator, v.name),
        }),
        { name: 'Wrong' },
      ),
    );
    expect(message).to.contain('Wrong.sure: orElse: the first value is never null');
    expect(message).to.contain(
      'Wrong.kinds: orElse takes two values of one kind; these are text and integer',
    );
    expect(message).to.contain('Wrong.sealed: this column is sealed (personal)');
    expect(message).to.contain('Wrong.row: orElse takes a column or another value of the row');
  });
});
