// The usual report, and last what was left out: what it waits for, and what names that.
const Mocha = require('mocha');

const { EVENT_TEST_PENDING, EVENT_RUN_END } = Mocha.Runner.constants;

/** What tests may have to do without, by what their titles say. */
const WANTED = [
  [/\(GRIBO_POSTGRES\b/, 'PostgreSQL server (GRIBO_POSTGRES)'],
  [/\(GRIBO_MARIADB\b/, 'MariaDB server (GRIBO_MARIADB)'],
  [/\(better-sqlite3 installed\)/, 'better-sqlite3'],
  [/\(in a browser\)/, 'Chromium (CHROMIUM)'],
  [/\bnginx\b/, 'nginx'],
  [/\bPython\b/, 'python3'],
];

const wantedBy = (title) => WANTED.find(([pattern]) => pattern.test(title))?.[1] ?? title;

module.exports = class Summing extends Mocha.reporters.Spec {
  constructor(runner, options) {
    super(runner, options);
    const left = new Map();
    runner.on(EVENT_TEST_PENDING, (test) => {
      const what = wantedBy(test.fullTitle());
      left.set(what, (left.get(what) ?? 0) + 1);
    });
    runner.once(EVENT_RUN_END, () => {
      const { passes, failures, pending } = this.stats;
      const most = [...left].sort(([, one], [, other]) => other - one);
      const told = most.map(([what, many]) => `${what} ${many}`).join(', ');
      if (pending > 0) Mocha.reporters.Base.consoleLog('%d wait: %s', pending, told);
      Mocha.reporters.Base.consoleLog('%d passed, %d failed, %d skipped', passes, failures, pending);
    });
  }
};
