import { expect } from 'chai';
import {
  api,
  atLeast,
  callerOf,
  collection,
  date,
  entity,
  given,
  input,
  integer,
  list,
  loadPlan,
  memoryStore,
  model,
  now,
  shape,
  text,
  timestamp,
  uuid,
  writer,
} from 'gribo';
import { answerColumns, serve } from './index.js';

const kept = model(
  {
    log: entity('log', {
      id: uuid().key().generated(),
      text: text(),
      madeAt: timestamp().generated(),
      madeOn: date().generated(),
      until: timestamp(),
      changedAt: timestamp().stamped('change', ({ now: at }) => at),
    }),
    keptAnswer: entity('keptAnswer', answerColumns()),
  },
  {},
);

const Log = shape(kept.log, (l) => ({
  text: l.text,
  madeAt: l.madeAt,
  madeOn: l.madeOn,
  changedAt: l.changedAt,
  open: given(atLeast(l.until, now), l.text),
}));

const logs = api({
  title: 'Logs',
  version: '1',
  caller: callerOf({}),
  endpoints: {
    logs: collection('/logs', kept.log, {
      list: list(Log),
      create: { takes: input(kept.log, ({ text: words, until }) => ({ text: words, until })), returns: Log },
    }),
  },
});

describe('the moment of a request', () => {
  it('is taken once, and is what all that the request does goes by', async () => {
    // A clock that never says the same twice.
    let asked = 0;
    const start = Date.UTC(2031, 2, 30, 1, 30);
    const seen: Date[] = [];
    const store = memoryStore(kept);
    const handle = serve(logs, {
      store,
      repeats: kept.keptAnswer,
      now: () => new Date(start + 86_400_000 * asked++),
      handlers: {
        'logs.create': ({ now: at, proceed }) => {
          seen.push(at);
          return proceed();
        },
      },
    });
    const response = await handle(
      new Request('http://logs.test/logs', {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'idempotency-key': 'k1' },
        body: JSON.stringify({ text: 'In', until: '2031-03-30T01:30:01Z' }),
      }),
    );
    const at = new Date(start);
    expect([response.status, await response.json()]).to.deep.equal([
      201,
      {
        text: 'In',
        madeAt: at.toISOString(),
        madeOn: '2031-03-30',
        changedAt: at.toISOString(),
        open: 'In',
      },
    ]);
    expect(seen).to.deep.equal([at]);
    const Kept = shape(kept.keptAnswer, ({ at: keptAt }) => ({ at: keptAt }));
    const rows = await store.list(loadPlan(Kept));
    expect(writer(list(Kept)).object(rows)).to.deep.equal([{ at: at.toISOString() }]);
    expect(asked).to.equal(1);
  });
});
