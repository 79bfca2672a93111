import { type Handler, type HandlerContext, type Handlers, Problem } from '@gribo/http';
import type { harbour } from './api.js';
import { db } from './model.js';

/** The statuses of calls that are still to come. */
const EXPECTED: readonly string[] = ['announced', 'confirmed'];

type OfCall = HandlerContext<typeof harbour, 'portCalls.cancel' | 'portCalls.reserve'>;

/** The call that a command is about; null where there is none. @throws {Problem} 409 where it is not expected any more */
const expectedCall = async ({ key, load, problem }: Pick<OfCall, 'key' | 'load' | 'problem'>) => {
  const call = key && (await load.from(db.portCall).row(...key));
  if (call === null || EXPECTED.includes(call.status)) return call;
  throw problem('not-expected', { detail: `It is ${call.status}.`, members: { callStatus: call.status } });
};

const cancel: Handler<typeof harbour, 'portCalls.cancel'> = (context) => {
  const { input, query, load, store, transaction } = context;
  const work = async () => {
    const call = await expectedCall(context);
    if (call === null) return null;
    const remarks = [call.remarks, `Cancelled: ${input.reason}`].filter((line) => line !== null).join('\n');
    await store.amend('portCall', [call.id], { status: 'cancelled', remarks });
    return load.row(call.id);
  };
  return transaction(work, { dryRun: query.dryRun });
};

const noBerth = (): Problem =>
  new Problem(422, {
    detail: 'The body has members that are wrong.',
    errors: [{ pointer: '/berth', code: 'conflict', message: 'There is no such berth in service.' }],
  });

const reserve: Handler<typeof harbour, 'portCalls.reserve'> = (context) => {
  const { input, load, store, transaction, problem } = context;
  return transaction(async () => {
    const call = await expectedCall(context);
    if (call === null) return null;
    const berth = await load.from(db.berth).row(input.berth);
    if (!berth?.inService) throw noBerth();
    const vessel = await load.from(db.vessel).row(call.vesselId);
    if (vessel && vessel.draughtM > berth.maxDraughtM)
      throw problem('does-not-fit', {
        detail: `${vessel.name} needs ${vessel.draughtM} m of water.`,
        members: { draughtM: vessel.draughtM, maxDraughtM: berth.maxDraughtM },
      });
    await store.amend('portCall', [call.id], { berthId: berth.id, status: 'confirmed' });
    if (input.pilot !== undefined)
      await store.create('pilotage', { portCallId: call.id, pilotId: input.pilot, boardedAt: call.eta });
    return load.row(call.id);
  });
};

const setPhoto: Handler<typeof harbour, 'vessels.setPhoto'> = async ({ files, key, store, transaction }) => {
  const photo = { image: await files.image.bytes(), mediaType: files.image.type };
  await transaction(async () => {
    if (key !== null && !(await store.amend('photo', key, photo)))
      await store.create('photo', { vesselId: key[0], ...photo });
  });
};

/** What the office's commands do. */
export const handlers: Handlers<typeof harbour> = {
  'portCalls.cancel': cancel,
  'portCalls.reserve': reserve,
  'vessels.setPhoto': setPhoto,
};
