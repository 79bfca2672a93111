import { expect } from 'chai';
import {
  api,
  audience,
  bytes,
  compare,
  constant,
  contractOf,
  type EndpointOptions,
  endpoint,
  entity,
  file,
  fileOf,
  given,
  integer,
  model,
  optional,
  preset,
  shape,
  text,
  timestamp,
  values,
} from '../../index.js';

const db = model({ crate: entity('crate', { id: integer().key(), picture: bytes() }) }, {});
const Crate = shape(db.crate, ({ id }) => ({ id }), { name: 'Crate' });
const Picture = fileOf(db.crate, (c) => ({ bytes: c.picture, type: constant('image/png') }));

type Options = Omit<EndpointOptions<never, never>, 'from'>;

/** What changed from one form of a command to another, from the side of clients. */
const changed = (before: Options, after: Options): readonly string[] => {
  const contractWith = (options: Options) =>
    contractOf(
      api({
        title: 'Crates',
        version: '1',
        audiences: ['office'],
        endpoints: { seal: endpoint('POST /crates/{id}/seal', { from: db.crate, ...options } as never) },
      }),
    );
  const { differences } = compare(contractWith(before), contractWith(after));
  return differences.map(({ effect, code, path }) => `${effect} ${code} ${path}`.trim());
};

describe('what changes about a command', () => {
  it('is what its query is told', () => {
    const query = values({ level: optional(integer({ min: 1 })), dry: preset(text(), 'no') });
    expect(changed({ query }, { query })).to.deep.equal([]);
    expect(changed({}, { query })).to.deep.equal(['safe parameter-added level', 'safe parameter-added dry']);
    expect(changed({ query }, {})).to.deep.equal([
      'breaking parameter-removed level',
      'breaking parameter-removed dry',
    ]);
    const required = values({ level: integer({ min: 2 }), dry: preset(text(), 'yes') });
    expect(changed({ query }, { query: required })).to.deep.equal([
      'breaking limit-tightened level',
      'breaking presence-tightened level',
      'risky preset-changed dry',
    ]);
    expect(changed({}, { query: values({ level: integer() }) })).to.deep.equal([
      'breaking parameter-added level',
    ]);
    const some = values({
      level: given(audience('office'), optional(integer({ min: 1 }))),
      dry: preset(text(), 'no'),
    });
    expect(changed({ query }, { query: some })).to.deep.equal(['breaking parameter-changed level']);
  });

  it('is what it is told, and what it refuses', () => {
    const takes = values({ by: text() }, { name: 'Sealing' });
    expect(
      changed({ takes }, { takes: values({ by: text(), at: timestamp() }, { name: 'Sealing' }) }),
    ).to.deep.equal(['breaking member-added at']);
    const problems = {
      sealed: { status: 409, title: 'It is sealed.', members: values({ on: timestamp(), by: text() }) },
    };
    expect(changed({}, { problems })).to.deep.equal(['risky problem-added sealed']);
    expect(changed({ problems }, {})).to.deep.equal(['safe problem-removed sealed']);
    const other = {
      sealed: { status: 422, title: 'It is sealed.', type: '/sealed', members: values({ on: text() }) },
    };
    expect(changed({ problems }, { problems: other })).to.deep.equal([
      'breaking problem-changed sealed',
      'breaking problem-changed sealed',
      'breaking member-removed sealed.by',
      'breaking type-changed sealed.on',
    ]);
  });

  it('is a file that it takes or sends', () => {
    const files = { picture: file({ types: ['image/png', 'image/jpeg'], max: 1000 }) };
    expect(changed({}, { files })).to.deep.equal(['breaking member-added picture']);
    expect(changed({}, { files: { picture: file({ optional: true }) } })).to.deep.equal([
      'safe member-added picture',
    ]);
    expect(changed({ files }, {})).to.deep.equal(['breaking member-removed picture']);
    expect(changed({ files }, { files: { picture: file({ types: ['image/png'], max: 10 }) } })).to.deep.equal(
      ['breaking limit-tightened picture', 'breaking type-changed picture'],
    );
    expect(changed({ files }, { files: { picture: file({ max: 2000, optional: true }) } })).to.deep.equal([
      'safe limit-loosened picture',
      'safe type-changed picture',
    ]);
    expect(
      changed({ files: { picture: file({ optional: true }) } }, { files: { picture: file() } }),
    ).to.deep.equal(['breaking presence-tightened picture']);
    expect(changed({ returns: Crate }, { returns: Picture })).to.include('breaking body-changed response');
  });
});
