import { expect } from 'chai';
import { type CheckFact, factsOfCheck } from './check.js';
import { checked } from './checked.js';
import type { ScannedColumn } from './database-schema.js';

const said = (fact: CheckFact): string => {
  if (fact.kind === 'choices') return `${fact.column} in ${fact.choices.join('|')}`;
  return `${fact.column} ${fact.kind} ${fact.kind === 'pattern' ? fact.pattern : fact.bound}`;
};

const CASES: readonly (readonly [check: string, facts: readonly string[] | null])[] = [
  ["CHECK ((kind = ANY (ARRAY['bulk'::text, 'tug'::text])))", ['kind in bulk|tug']],
  [
    "CHECK (((kind)::text = ANY ((ARRAY['a'::character varying, 'it''s'::character varying])::text[])))",
    ["kind in a|it's"],
  ],
  ["`kind` in ('bulk','tug')", ['kind in bulk|tug']],
  ["`kind` in (_utf8mb4'bulk',_utf8mb4'tug')", ['kind in bulk|tug']],
  ["check (kind in ('bulk', 'tug'))", ['kind in bulk|tug']],
  ["check ([Kind Of] in ('bulk'))", ['Kind Of in bulk']],
  ["CHECK ((kind = 'bulk'::text))", ['kind in bulk']],
  ['CHECK ((age > 5))', ['age above 5']],
  [
    'CHECK (((built_year >= 1850) AND (built_year <= 2100)))',
    ['built_year least 1850', 'built_year most 2100'],
  ],
  ['`built_year` between 1850 and 2100', ['built_year least 1850', 'built_year most 2100']],
  ['check ("Built Year" > -5 and 10 >= "Built Year")', ['Built Year above -5', 'Built Year most 10']],
  ['CHECK ((char_length((name)::text) >= 2))', ['name shortest 2']],
  ['check (length(name) < 9)', ['name shorter 9']],
  ["CHECK ((code ~ '^[A-Z]{3}$'::text))", ['code pattern ^[A-Z]{3}$']],
  ['CHECK ((tonnage >= (0)::numeric))', ['tonnage least 0']],
  ["CHECK (((kind = 'a'::text) OR (age > 5)))", null],
  ['json_valid(`details`)', null],
  ["kind in ('a') or age in ('b')", null],
  ['CHECK ((starts < ends))', null],
  ['check (age % 2 = 0)', null],
  ["check (lower(kind) in ('a'))", null],
  ['', null],
];

const column = (name: string, type: ScannedColumn['type']): ScannedColumn => ({
  name,
  type,
  said: '',
  isGuessed: false,
  nullable: false,
  generated: false,
  hasDefault: false,
  about: null,
});

describe('checks of databases', () => {
  it('are understood as a whole, or not at all', () => {
    for (const [check, facts] of CASES)
      expect(factsOfCheck(check)?.map(said) ?? null, check).to.deep.equal(facts);
  });

  it('limit characters only where the function counts those', () => {
    const counting = /^char_length$/i;
    expect(factsOfCheck('char_length(`name`) < 9', counting)?.map(said)).to.deep.equal(['name shorter 9']);
    expect(factsOfCheck('length(`name`) < 9', counting)).to.equal(null);
  });

  it('become limits where the type can say them, and are left where it cannot', () => {
    const text = { kind: 'text', min: null, max: 20, pattern: null } as const;
    const integer = { kind: 'integer', min: null, max: null } as const;
    const { columns, left } = checked(
      [
        column('name', text),
        column('code', text),
        column('age', integer),
        column('many', { kind: 'bigint', min: null, max: null }),
        column('draught', { kind: 'real', min: null, max: null }),
        column('shape', null),
      ],
      [
        'check (length(name) between 2 and 30)',
        "check (code ~ '^[A-Z]+$')",
        "check (code ~ '[[:alpha:]]')",
        'check (age > 5 and age < 9)',
        'check (many >= 3)',
        'check (draught >= 0.5)',
        'check (draught < 20)',
        'check (shape > 1)',
        'check (nowhere > 1)',
      ],
    );
    expect(columns.map(({ type }) => type)).to.deep.equal([
      { ...text, min: 2 },
      { ...text, pattern: /^[A-Z]+$/ },
      { ...integer, min: 6, max: 8 },
      { kind: 'bigint', min: 3n, max: null },
      { kind: 'real', min: 0.5, max: null },
      null,
    ]);
    expect(left).to.deep.equal([
      "check (code ~ '[[:alpha:]]')",
      'check (draught < 20)',
      'check (shape > 1)',
      'check (nowhere > 1)',
    ]);
  });
});
