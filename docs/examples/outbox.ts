import { type Handler, serve } from '@gribo/http';
import {
  api,
  endpoint,
  entity,
  equals,
  integer,
  model,
  oneOf,
  rowsWhere,
  type Store,
  shape,
  text,
  timestamp,
  values,
  writer,
} from 'gribo';
import type { Kysely } from 'kysely';

export const db = model(
  {
    call: entity('call', {
      id: integer().key(),
      vessel: text(),
      status: oneOf('expected', 'cancelled'),
      agent: text().sealed('personal'),
    }),
    message: entity('message', {
      id: integer().key().generated(),
      topic: text(),
      body: text(),
      at: timestamp().stamped('create', ({ now }) => now),
    }),
  },
  {},
);

/** What others are told: a shape, so that what is sealed stays here, and the contract of the message can be compared. */
export const CallCancelled = shape(db.call, (c) => ({ call: c.id, vessel: c.vessel }));

const Call = shape(db.call, ({ id, status }) => ({ id, status }));
export const office = api({
  title: 'Office',
  version: '1',
  endpoints: {
    cancel: endpoint('POST /calls/{id}/cancel', {
      from: db.call,
      takes: values({ reason: text() }),
      returns: Call,
    }),
  },
});

export const cancel: Handler<typeof office, 'cancel'> = ({ key, load, store, transaction }) =>
  transaction(async () => {
    const [id] = key ?? [];
    const [call] = await load
      .from(db.call)
      .rows({ where: rowsWhere(db.call, (c) => equals(c.id, Number(id))) });
    if (call === undefined) return null;
    await store.amend('call', [call.id], { status: 'cancelled' });
    // Stored with the change, or not at all.
    await store.create('message', { topic: 'calls.cancelled', body: writer(CallCancelled).json(call) });
    return load.row(call.id);
  });

export const handlerOf = (store: Store) => serve(office, { store, handlers: { cancel } });

/** The table of what waits to be sent. */
interface Waiting {
  readonly message: { readonly id: number; readonly topic: string; readonly body: string };
}

/**
 * Sends what waits, the oldest first, and forgets it once the broker has it: a message is sent again where that is not certain.
 * Several workers may be at it: each takes others.
 *
 * @returns how many were sent
 */
export const sendWaiting = (
  kysely: Kysely<Waiting>,
  publish: (topic: string, body: string) => Promise<void>,
): Promise<number> =>
  kysely.transaction().execute(async (transaction) => {
    const waiting = await transaction
      .selectFrom('message')
      .select(['id', 'topic', 'body'])
      .orderBy('id')
      .limit(100)
      .forUpdate()
      .skipLocked()
      .execute();
    for (const { topic, body } of waiting) await publish(topic, body);
    const sent = waiting.map(({ id }) => id);
    if (sent.length > 0) await transaction.deleteFrom('message').where('id', 'in', sent).execute();
    return sent.length;
  });
