import { expect } from 'chai';
import { griboProcess, HARBOUR } from '../../../packages/cli/src/testing/run-gribo.js';

const LOADED = `--import=${new URL('../../../scripts/another-day.mjs', import.meta.url).href}`;

/** Long after the first edition has ended, in another zone. */
const LATER = { GRIBO_DAY: '2031-03-30T01:30', TZ: 'Pacific/Apia', NODE_OPTIONS: LOADED };

describe('the demo, which has a day of its own', () => {
  for (const command of ['check --no-drift', 'here', 'retire 2025-11', 'show vessels.read --id 3 --beside'])
    it(`says the same on any day: gribo ${command}`, async () => {
      const [today, later] = [
        await griboProcess(command.split(' '), HARBOUR),
        await griboProcess(command.split(' '), HARBOUR, LATER),
      ];
      expect(later).to.deep.equal(today);
      expect(today.out.length).to.be.above(100);
    });
});
