import { expect } from 'chai';
import { typeOf } from './type-of.js';

/** What databases call their types, by the kind of column that each is. */
const NAMES: Readonly<Record<string, string>> = {
  integer: 'smallint integer int mediumint tinyint year INTEGER',
  bigint: 'bigint',
  real: 'real float double|double precision',
  decimal: 'numeric decimal',
  bool: 'boolean bool',
  date: 'date',
  time: 'time|time without time zone',
  timestamp: 'timestamp datetime|timestamp with time zone|timestamp without time zone',
  uuid: 'uuid',
  json: 'json jsonb',
  bytes: 'bytea blob tinyblob mediumblob longblob binary varbinary',
  text: 'text tinytext mediumtext longtext citext|character varying|character varchar char',
};

const named = (names: string): readonly string[] =>
  names
    .split('|')
    .flatMap((part) =>
      /^(?:\w+ ){1,3}\w+$/.test(part) && /precision|varying|zone/.test(part) ? [part] : part.split(' '),
    );

describe('types of databases', () => {
  for (const [kind, names] of Object.entries(NAMES)) {
    it(`are ${kind}, whatever they are called`, () => {
      for (const name of named(names)) {
        const type = typeOf({ name, length: null, precision: null, scale: null });
        expect(type?.kind, name).to.equal(kind);
      }
    });
  }

  it('keep the length of texts and bytes, and the digits of decimals', () => {
    const said = { length: 20, precision: 8, scale: 2 };
    expect(typeOf({ name: 'varchar', ...said })).to.include({ kind: 'text', max: 20 });
    expect(typeOf({ name: 'text', ...said })).to.include({ kind: 'text', max: null });
    expect(typeOf({ name: 'varbinary', ...said })).to.deep.equal({ kind: 'bytes', max: 20 });
    expect(typeOf({ name: 'blob', ...said })).to.deep.equal({ kind: 'bytes', max: null });
    expect(typeOf({ name: 'numeric', ...said })).to.deep.equal({
      kind: 'decimal',
      precision: 8,
      scale: 2,
      min: null,
      max: null,
    });
    expect(typeOf({ name: 'numeric', ...said, scale: null })).to.include({ scale: 0 });
    expect(typeOf({ name: 'geometry', ...said })).to.equal(null);
  });
});
