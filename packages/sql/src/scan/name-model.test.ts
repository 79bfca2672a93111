import { rmSync } from 'node:fs';
import { expect } from 'chai';
import { writer } from 'gribo';
import type { ScannedTable } from '../catalogue/database-schema.js';
import { CACHE, compiled, declared } from '../testing/compiled.js';
import { apiSource } from './api-source.js';
import { modelSource } from './model-source.js';
import { nameModel } from './name-model.js';
import { camelCase, plural, singular } from './names.js';
import { seemsSecret } from './secret.js';

/** A column of a whole number. */
const column = (name: string) => ({
  name,
  type: { kind: 'integer', min: null, max: null } as const,
  said: 'integer',
  isGuessed: false,
  nullable: false,
  generated: false,
  hasDefault: false,
  about: null,
});

/** A table of whole numbers. */
const tableOf = (
  name: string,
  columns: readonly string[],
  { key = ['id'], ...others }: Partial<ScannedTable> = {},
): ScannedTable => ({
  id: name,
  schema: 'main',
  name,
  stored: name,
  isView: false,
  about: null,
  columns: columns.map(column),
  key,
  unique: [],
  references: [],
  checks: [],
  ...others,
});

describe('names of scanned models', () => {
  it('are those a person would give', () => {
    expect(['Buyer ID', 'buyerID', 'shipURLPath', 'ISO Code', 'A B'].map(camelCase)).to.deep.equal([
      'buyerId',
      'buyerId',
      'shipUrlPath',
      'isoCode',
      'aB',
    ]);
    expect(['port_call', 'ID', 'IMONumber', '2nd-try', 'Élan vital', '_x'].map(camelCase)).to.deep.equal([
      'portCall',
      'id',
      'imoNumber',
      '_2ndTry',
      'élanVital',
      'x',
    ]);
    expect(
      ['vessels', 'ferries', 'boxes', 'bus', 'gas', 'glass', 'dishes', 'quay'].map(singular),
    ).to.deep.equal(['vessel', 'ferry', 'box', 'bus', 'gas', 'glass', 'dish', 'quay']);
    expect(['vessel', 'ferry', 'box', 'quay', 'dish'].map(plural)).to.deep.equal([
      'vessels',
      'ferries',
      'boxes',
      'quays',
      'dishes',
    ]);
  });

  it('never clash, whatever the database calls its things', async () => {
    const table = (name: string, columns: string[], references: [string, string][] = []): ScannedTable =>
      tableOf(name, columns, {
        references: references.map(([from, to]) => ({ columns: [from], table: to, targets: ['id'] })),
      });
    const model = nameModel({
      tables: [
        table('class', ['id', 'entity', "it's", 'a b', 'a_b', '__proto__', 'constructor']),
        table(
          'model',
          ['id', 'owner_id', 'owner', 'classes', 'class_id', 'other_id'],
          [
            ['owner_id', 'class'],
            ['class_id', 'class'],
            ['other_id', 'model'],
          ],
        ),
        table(
          'vessels',
          ['id', 'vessel_id'],
          [
            ['vessel_id', 'vessels'],
            ['vessel_id', 'class'],
          ],
        ),
        table('vessel', ['id', '1', "x'); drop table y; --", 'line\r\n\u2028break', 'back\\slash "$`']),
        table('shapes\r\n', ['id', 'api_token']),
        table('eval', ['id']),
        table('undefined', ['id']),
        table('arguments', ['id']),
      ],
    });
    const db = await compiled('clash', modelSource(model));
    expect(Object.keys(db)).to.deep.equal([
      'classRow',
      'modelRow',
      'vessels',
      'vessel',
      'shapeRow',
      'evalRow',
      'undefinedRow',
      'argument',
    ]);
    expect(db['vessel']?.entity.columns.map(({ stored }) => stored)).to.deep.equal([
      'id',
      '1',
      "x'); drop table y; --",
      'line\r\n\u2028break',
      'back\\slash "$`',
    ]);
    expect(db['shapeRow']?.entity.table).to.equal('shapes\r\n');
    const { office } = await declared('clash', modelSource(model), apiSource(model));
    expect(office.plan.endpoints.map(({ name }) => name)).to.include.members([
      'classRow.list',
      'shapeRow.read',
    ]);
    const written = writer({
      plan: office.plan.endpoints.find(({ name }) => name === 'shapeRow.read')?.returns,
    } as never);
    expect(
      written.plan.shape.fields.map(({ name }) => name),
      'what is sealed is left out',
    ).to.deep.equal(['id']);
    expect([...(db['modelRow']?.links.keys() ?? [])]).to.include.members(['ownerRow', 'class', 'other']);
    expect(db['classRow']?.entity.columns.map(({ stored }) => stored)).to.deep.equal([
      'id',
      'entity',
      "it's",
      'a b',
      'a_b',
      '__proto__',
      'constructor',
    ]);
    rmSync(CACHE, { recursive: true, force: true });
  });

  it('take only a table whose key is two references for one that joins them', () => {
    const references = ['a', 'b'].map((table) => ({ columns: [`${table}_id`], table, targets: ['id'] }));
    const joining = (key: string[]) =>
      nameModel({
        tables: [
          tableOf('a', ['id']),
          tableOf('b', ['id']),
          tableOf('ab', ['a_id', 'b_id', 'day'], { key, references }),
        ],
      }).entities[0]?.links.map(({ kind, name }) => `${kind} ${name}`);
    expect(joining(['a_id', 'b_id'])).to.deep.equal(['toMany abs', 'through bs']);
    expect(joining(['a_id', 'b_id', 'day'])).to.deep.equal(['toMany abs']);
    expect(joining(['day'])).to.deep.equal(['toMany abs']);
  });

  it('link to a unique column, and to one row where what refers to it is unique', () => {
    const linksTo = (target: string, unique: readonly string[][]) =>
      modelSource(
        nameModel({
          tables: [
            tableOf('vessel', ['id', 'imo'], { unique: [['imo']] }),
            tableOf('survey', ['id', 'vessel_imo'], {
              unique,
              references: [{ columns: ['vessel_imo'], table: 'vessel', targets: [target] }],
            }),
          ],
        }),
      )
        .split('\n')
        .flatMap((line) => /to(?:One|Many)\(.*\)/.exec(line)?.[0] ?? []);
    expect(linksTo('id', [])).to.deep.equal([
      "toMany('survey', 'vesselImo')",
      "toOne('vessel', 'vesselImo')",
    ]);
    expect(linksTo('imo', [])).to.deep.equal([
      "toMany('survey', { vesselImo: 'imo' })",
      "toOne('vessel', { vesselImo: 'imo' })",
    ]);
    expect(linksTo('imo', [['vessel_imo']])).to.deep.equal([
      "toOne('survey', { imo: 'vesselImo' }, { optional: true })",
      "toOne('vessel', { vesselImo: 'imo' })",
    ]);
  });

  it('say what they leave out, and why', () => {
    const { entities, leftOut } = nameModel({
      tables: [
        tableOf('vessel', ['id', 'shape'], {
          columns: [column('id'), { ...column('shape'), type: null, said: 'geometry' }],
          checks: ['(a < b)'],
          references: [{ columns: ['id'], table: 'elsewhere', targets: ['id'] }],
        }),
        tableOf('a.b', ['id']),
        tableOf('bare', ['name'], { key: [] }),
        tableOf('seen', ['vessel_id', 'name'], { key: [], isView: true }),
      ],
    });
    expect(leftOut.map(({ table }) => table)).to.deep.equal(['a.b', 'bare']);
    expect(
      entities.map(({ name, readOnly, unsaid }) => [name, readOnly, unsaid.map(({ what }) => what)]),
    ).to.deep.equal([
      ['vessel', false, ['column shape (geometry)', '(a < b)', 'reference of id']],
      ['seen', true, []],
    ]);
    expect(entities[1]?.columns.filter(({ key }) => key).map(({ name }) => name)).to.deep.equal(['vesselId']);
  });

  it('have a key that is proposed only where nothing says one', () => {
    const shape = { ...column('shape'), type: null };
    const view = (name: string, unique: readonly string[][]) =>
      tableOf(name, [], { key: [], isView: true, unique, columns: [column('no'), column('berth'), shape] });
    const { entities } = nameModel({
      tables: [
        tableOf('own', ['id']),
        view('known', [['berth']]),
        view('none', []),
        view('other', [['shape', 'no']]),
      ],
    });
    expect(
      entities.map(({ name, isKeyProposed, columns }) => [
        name,
        isKeyProposed,
        columns
          .filter(({ key }) => key)
          .map((each) => each.name)
          .join(),
      ]),
    ).to.deep.equal([
      ['own', false, 'id'],
      ['known', false, 'berth'],
      ['none', true, 'no'],
      ['other', true, 'no'],
    ]);
  });

  it('seal what is secret by its words, and nothing that only has them in it', () => {
    const secret = [
      'password',
      'passwordHash',
      'user_email',
      'PHONE',
      'home_address',
      'api_key',
      'creditCard',
      'creditNote',
      'PINCode',
    ];
    const open = [
      'discarded',
      'scorecardCount',
      'addressId',
      'email_count',
      'password_changed_at',
      'hashtag',
      'spin',
    ];
    expect([...secret, ...open].filter(seemsSecret)).to.deep.equal(secret);
  });
});
