import { readdirSync, readFileSync } from 'node:fs';
import { expect } from 'chai';
import { clock } from './clock.js';

const PACKAGES = new URL('../../../', import.meta.url);

/** Whether a line asks what moment it is. */
const ASKS = /new Date\(\)|\bDate\.now\b|\bDate\(\)/;

const sources = readdirSync(PACKAGES, { recursive: true, encoding: 'utf8' })
  .map((path) => path.replaceAll('\\', '/'))
  .filter((path) => /^[^/]+\/src\/.*\.tsx?$/.test(path))
  .filter((path) => !/\.test\.ts$|\/testing\/|\.types\.ts$/.test(path));

describe('the clock', () => {
  it('says what moment it is', () => {
    expect(Math.abs(clock().getTime() - Date.now())).to.be.below(60_000);
  });

  it('is the only one: nothing else in the packages asks what moment it is', () => {
    const asking = sources.flatMap((path) =>
      readFileSync(new URL(path, PACKAGES), 'utf8')
        .split('\n')
        .flatMap((line) => (ASKS.test(line) ? [path] : [])),
    );
    expect(sources.length).to.be.above(500);
    expect(asking).to.deep.equal(['gribo/src/util/clock.ts']);
  });
});
