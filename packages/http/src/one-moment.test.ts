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
  list,
  type Model,
  type ModelOf,
  memoryStore,
  model,
  now,
  shape,
  text,
  timestamp,
  uuid,
} from 'gribo';
import { answerColumns, serve } from './index.js';

const made = model(
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
interface Kept extends ModelOf<typeof made> {}
const kept: Model<Kept> = made;

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
    const send = async () => {
      const request = new Request('http://logs.test/logs', {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'idempotency-key': 'k1' },
        body: JSON.stringify({ text: 'In', until: '2031-03-30T01:30:01Z' }),
      });
      const response = await handle(request);
      return { status: response.status, body: await response.json() };
    };
    const at = new Date(start);
    const first = {
      status: 201,
      body: {
        text: 'In',
        madeAt: at.toISOString(),
        madeOn: '2031-03-30',
        changedAt: at.toISOString(),
        open: 'In',
      },
    };
    expect(await send()).to.deep.equal(first);
    expect([seen, asked]).to.deep.equal([[at], 1]);
    // Its answer is kept for a day from that moment, and no longer.
    expect(await send()).to.deep.equal(first);
    const third = (await send()).body as { readonly madeOn: string; readonly open?: string };
    expect([third.madeOn, third.open, asked]).to.deep.equal(['2031-04-01', undefined, 3]);
  });
});
