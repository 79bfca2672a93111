import { expect } from 'chai';
import { bundlePrograms, type Programs } from './bundle.js';
import { isThere, RUNTIMES } from './runtimes.js';
import type { Outcomes } from './smoke.js';
import { runSuites, type SuiteResult } from './suites.js';

const PARTS = ['requests', 'writers', 'readers', 'serializers'] as const;

const there = RUNTIMES.filter(isThere);
const [first, ...others] = there;

describe('other runtimes', () => {
  const table: string[][] = [['', ...PARTS, 'tests of gribo and @gribo/http']];
  let programs: Programs;
  let measure: Outcomes;
  before(async () => {
    if (first === undefined) throw new Error('There are none: npm ci --prefix runtimes puts them here.');
    programs = await bundlePrograms();
    measure = await first.outcomes(programs);
  });
  after(() => {
    for (const cells of table) console.log(`    | ${cells.join(' | ')} |`);
  });

  for (const { name } of RUNTIMES.filter((one) => !isThere(one))) {
    it.skip(`${name} is not installed`, () => undefined);
  }

  it('there is enough to be compared', () => {
    for (const part of PARTS) expect(measure[part].length, part).to.be.above(40);
    expect(measure.requests.length).to.be.above(300);
    // A failure that is the same everywhere would be no difference.
    const failed = measure.requests.filter(({ came }) => came.startsWith('5') || came.includes('broke off'));
    expect(failed).to.deep.equal([]);
  });

  for (const runtime of there) {
    it(`${runtime.name} gives byte for byte what ${first?.name} gives`, async () => {
      const came = others.includes(runtime) ? await runtime.outcomes(programs) : measure;
      for (const part of PARTS) {
        const differing = measure[part].filter(
          ({ what, came: wanted }, i) => came[part][i]?.what !== what || came[part][i]?.came !== wanted,
        );
        expect(
          differing.map(({ what }) => what),
          part,
        ).to.deep.equal([]);
      }
      const suites = runtime.name === running ? 'by npm test' : '–';
      table.push([runtime.name, ...PARTS.map((part) => String(came[part].length)), suites]);
    });
  }

  // The Node that runs this has run the suites by `npm test` already.
  const running = `Node ${process.versions.node.split('.')[0]}`;
  // All at once: most of their time they wait.
  const suited = there.filter((one) => one.runsSuites && one.name !== running);
  const started = new Map<string, Promise<SuiteResult>>();
  const start = (): void => {
    for (const { name, file } of suited) {
      const suites = runSuites(file, ['gribo', 'http']);
      // It is told where it is waited for.
      suites.catch(() => undefined);
      started.set(name, suites);
    }
  };
  for (const { name } of suited) {
    it(`${name} passes the tests of gribo and @gribo/http`, async () => {
      if (started.size === 0) start();
      const { passes, failures } = (await started.get(name)) ?? { passes: 0, failures: ['not started'] };
      expect(failures).to.deep.equal([]);
      expect(passes).to.be.above(500);
      table.find((cells) => cells[0] === name)?.splice(-1, 1, String(passes));
    });
  }
});
