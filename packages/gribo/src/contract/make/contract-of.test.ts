import { expect } from 'chai';
import {
  all,
  any,
  api,
  asked,
  collection,
  contractOf,
  given,
  holds,
  type JsonSchema,
  jsonSchema,
  not,
  page,
  shape,
  wrap,
} from '../../index.js';
import { db, type Json, Line, store } from '../../testing/crates.js';

describe('contractOf', () => {
  const contract = contractOf(store);
  const memberOf = (shapeName: string, name: string) =>
    contract.shapes[shapeName]?.members.find((member) => member.name === name);

  it('names each content once, with what is different behind the name', () => {
    expect(Object.keys(contract.shapes)).to.deep.equal([
      'Line.page',
      'Line',
      'Crate',
      'Crate.office',
      'Tree.wrap',
      'Tree',
      'Tree.2',
      'Tree.3',
    ]);
    expect(Object.keys(contract.inputs)).to.deep.equal(['NewCrate', 'EditCrate']);
  });

  it('says what each audience gets', () => {
    const read = contract.endpoints.find(({ name }) => name === 'crates.read');
    expect(read?.returns).to.deep.equal({
      many: false,
      variants: [
        { audiences: [null, 'public'], shape: 'Crate' },
        { audiences: ['office'], shape: 'Crate.office' },
      ],
    });
    const names = (shapeName: string) => contract.shapes[shapeName]?.members.map(({ name }) => name) ?? [];
    expect(names('Crate.office').filter((name) => !names('Crate').includes(name))).to.deep.equal([
      'phone',
      'office',
    ]);
    expect(contract.endpoints.find(({ name }) => name === 'trees.list')).to.include({ entity: 'crate' });
  });

  it('says when a member is there, and whether it may be null', () => {
    expect(memberOf('Crate', 'more')).to.deep.equal({
      name: 'more',
      type: { kind: 'time' },
      when: 'asked',
      asks: ['more'],
    });
    expect(memberOf('Crate', 'less')).to.include({ when: 'some' });
    expect(memberOf('Crate', 'photo')).to.include({ when: 'some' }).and.not.have.property('nullable');
    expect(memberOf('Crate', 'extra')).to.include({ when: 'some' });
    expect(memberOf('Crate', 'partOf')).to.include({ nullable: true });
    expect(memberOf('Crate', 'parts')).to.deep.equal({ name: 'parts', type: { kind: 'list', of: 'Line' } });
    expect(contract.endpoints.find(({ name }) => name === 'crates.read')?.asks).to.deep.equal(['more']);
  });

  it('knows what every page says', () => {
    expect(memberOf('Line.page', 'page')?.type).to.deep.equal({
      kind: 'group',
      members: ['number', 'size', 'total', 'pages'].map((name) => ({
        name,
        type: { kind: 'integer', min: 0 },
      })),
    });
    expect(memberOf('Tree.wrap', 'count')).to.include({ nullable: true });
  });

  it('knows what a page by cursor says, and what is said of no page', () => {
    const memberIn = (body: Parameters<typeof jsonSchema>[0], name: string): JsonSchema | undefined => {
      const { $ref, $defs } = jsonSchema(body) as { $ref: string; $defs: Json };
      const { properties = {} } = $defs[$ref.replace('#/$defs/', '')] ?? {};
      return (properties as Json)[name];
    };
    const byCursor = memberIn(page(Line, { by: 'cursor' }), 'page')?.['properties'] as Json;
    expect(byCursor['size']?.['type']).to.equal('integer');
    expect(byCursor['next']?.['type']).to.deep.equal(['string', 'null']);
    const wrapped = wrap(page(Line, { totals: false }), (items, { number, next, total }) => ({
      items,
      number,
      next,
      total,
    }));
    expect(memberIn(wrapped, 'number')?.['type']).to.equal('integer');
    expect(memberIn(wrapped, 'next')?.['type']).to.deep.equal(['string', 'null']);
    expect(memberIn(wrapped, 'total')?.['type']).to.deep.equal(['integer', 'null']);
  });

  it('tells what has to be asked for from what the row decides', () => {
    const odd = (id: number): boolean => id % 2 === 1;
    const Maybe = shape(db.crate, (c) => ({
      both: given(all(asked('x'), holds([c.id], odd)), c.id),
      either: given(any(asked('x'), holds([c.id], odd)), c.id),
      never: given(all(asked('x'), not(asked('x'))), c.id),
    }));
    const maybe = api({
      title: 'Maybe',
      version: '1.0.0',
      endpoints: { one: collection('/one', db.crate, { read: Maybe }) },
    });
    const [one] = Object.values(contractOf(maybe).shapes);
    expect(one?.members.map(({ name, when }) => [name, when])).to.deep.equal([
      ['both', 'asked'],
      ['either', 'some'],
      ['never', 'asked'],
    ]);
  });

  it('says what inputs take', () => {
    expect(
      contract.inputs['NewCrate']?.members.map(({ name, when, nullable }) => [name, when, nullable]),
    ).to.deep.equal([
      ['name', undefined, undefined],
      ['kind', 'preset', true],
      ['size', undefined, undefined],
      ['by', 'optional', true],
      ['may', 'optional', true],
    ]);
    expect(contract.inputs['EditCrate']).to.deep.include({ amends: true, fixed: ['name'] });
    const optionals = contract.inputs['EditCrate']?.members.map(({ when }) => when);
    expect(new Set(optionals)).to.deep.equal(new Set(['optional']));
  });

  it('is plain JSON, frozen, and the same each time', () => {
    expect(JSON.parse(JSON.stringify(contract))).to.deep.equal(contract);
    expect(contractOf(store)).to.equal(contract);
    expect(Object.isFrozen(contract.shapes['Line']?.members)).to.equal(true);
  });
});
