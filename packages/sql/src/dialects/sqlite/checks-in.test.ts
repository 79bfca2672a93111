import { expect } from 'chai';
import { checksIn } from './checks-in.js';

describe('checks in the statement that made a table', () => {
  const cases: readonly (readonly [what: string, definition: string, checks: readonly string[]])[] = [
    ['none', 'create table t (a int)', []],
    [
      'those of columns and of the table',
      "create table t (a int check (a > 0), check(a in ('x', 'y')))",
      ['check (a > 0)', "check(a in ('x', 'y'))"],
    ],
    ['parentheses within them', 'create table t (a int CHECK ((a + (1)) > 0))', ['CHECK ((a + (1)) > 0)']],
    [
      'parentheses in strings',
      "create table t (a text check (a <> ')' and a <> 'it''s (')",
      ["check (a <> ')' and a <> 'it''s (')"],
    ],
    ['names that are called so', 'create table t ("check (x)" int, `check (y)` int, [check (z)] int)', []],
    [
      'comments',
      'create table t (a int -- check (a > 1)\n, /* check (a > 2) */ check (a > 3 /* ) */))',
      ['check (a > 3 /* ) */)'],
    ],
  ];

  for (const [what, definition, checks] of cases)
    it(`are found: ${what}`, () => {
      expect(checksIn(definition)).to.deep.equal(checks);
    });
});
