// `GRIBO_DAY=2031-03-30T01:30` has whoever is run find that moment, and no other: loaded into every process that tests start, and
// theirs. Only `Date` stands still; timers are those of the machine.
import FakeTimers from '@sinonjs/fake-timers';

const { GRIBO_DAY } = process.env;

if (GRIBO_DAY !== undefined) {
  const now = new Date(GRIBO_DAY);
  if (Number.isNaN(now.getTime()))
    throw new Error(`GRIBO_DAY: expected a moment such as 2031-03-30T01:30, got ${GRIBO_DAY}`);
  FakeTimers.install({ now, toFake: ['Date'] });
}
