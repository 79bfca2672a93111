import { expect } from 'chai';
import type { Passing } from '../errors/statement-error.js';
import { StatementError } from '../errors/statement-error.js';
import { DIALECTS } from './dialects.js';

type Case = readonly [error: object, passing: Passing | null];

const pg = (code: string, passing: Passing | null): Case => [{ code, message: '' }, passing];
const my = (errno: number, code: string, passing: Passing | null): Case => [{ errno, code }, passing];

/** What drivers say where nobody reaches the database; nothing of it is the database's own. */
const LOST: readonly Case[] = [
  [Object.assign(new Error('connect'), { code: 'ECONNREFUSED' }), 'later'],
  [Object.assign(new Error('lookup'), { code: 'ENOTFOUND' }), 'later'],
  [Object.assign(new Error('lookup'), { code: 'EAI_AGAIN' }), 'later'],
  [new Error('timeout exceeded when trying to connect'), 'later'],
  [new Error('Connection terminated unexpectedly'), 'later'],
  [new TypeError('x is not a function'), null],
];

const CASES: Readonly<Record<string, readonly Case[]>> = {
  postgres: [
    ...['40001', '40P01'].map((code) => pg(code, 'again')),
    ...['08006', '53100', '53300', '55P03', '57014', '57P01', '57P03', '25006', '25P03'].map((code) =>
      pg(code, 'later'),
    ),
    ...['23505', '42P01', '28P01', '3D000', '22P02', '40002', '57000'].map((code) => pg(code, null)),
  ],
  mysql: [
    ...[1205, 1213, 1020, 1614].map((errno) => my(errno, 'ER_LOCKED', 'again')),
    ...[1040, 1047, 1053, 1290, 1317, 1927, 2006, 2013].map((errno) => my(errno, 'ER_GONE', 'later')),
    my(0, 'PROTOCOL_CONNECTION_LOST', 'later'),
    ...[1062, 1045, 1049, 1146].map((errno) => my(errno, 'ER_DUP_ENTRY', null)),
  ],
  sqlite: [
    ...['SQLITE_BUSY', 'SQLITE_BUSY_SNAPSHOT', 'SQLITE_LOCKED'].map((code) => pg(code, 'again')),
    pg('SQLITE_FULL', 'later'),
    ...['SQLITE_CONSTRAINT_UNIQUE', 'SQLITE_ERROR'].map((code) => pg(code, null)),
  ],
};

describe('what a failure of a statement asks for', () => {
  for (const { name, title, failure } of DIALECTS)
    it(`is known of ${title} by its codes, and of drivers that reach none`, () => {
      const cases = CASES[name];
      if (cases === undefined) throw new Error(`there are no cases for ${name}`);
      for (const [error, passing] of [...cases, ...LOST]) {
        const failed = new StatementError(failure(error), null);
        const about = JSON.stringify(error);
        expect(failed.passing, about).to.equal(passing);
        expect(failed.code, about).to.equal(passing === null ? 'STATEMENT' : 'UNAVAILABLE');
      }
    });
});
