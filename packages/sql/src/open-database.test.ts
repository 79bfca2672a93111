import { existsSync } from 'node:fs';
import { expect } from 'chai';
import { openDatabase } from './open-database.js';

const refused = (url: string): Promise<{ code?: string; message: string }> =>
  openDatabase(url).then(
    () => ({ message: 'it was opened' }),
    (error: { code: string; message: string }) => error,
  );

describe('opening a database by its address', () => {
  it('makes no file where a path is mistyped', async () => {
    const { code, message } = await refused('sqlite:no-such-harbour.db');
    expect(code).to.equal('DATABASE');
    expect(message).to.contain('There is no such file');
    expect(existsSync('no-such-harbour.db')).to.equal(false);
  });

  it('says how an address starts where it is none', async () => {
    const { code, message } = await refused('harbour://h/d');
    expect(code).to.equal('DATABASE');
    expect(message).to.contain('postgres:, postgresql:, pglite:, mysql:, mariadb:, sqlite:');
  });
});
