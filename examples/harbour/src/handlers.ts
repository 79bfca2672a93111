import { type Handler, type Handlers, Problem } from '@gribo/http';
import type { harbour } from './api.js';
import { db } from './model.js';

/** The statuses of calls that are still to come. */
const EXPECTED: readonly string[] = ['announced', 'confirmed'];

const cancel: Handler<typeof harbour, 'portCalls.cancel'> = (context) => {
  const { input, query, key, load, store, transaction, problem } = context;
  const work = async () => {
    const call = key && (await load.from(db.portCall).row(...key));
    if (!call) return null;
    if (!EXPECTED.includes(call.status))
      throw problem('not-expected', {
        detail: `It is ${call.status}.`,
        members: { callStatus: call.status },
      });
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

const reserve: Handler<typeof harbour, 'portCalls.reserve'> = ({
  input,
  key,
  load,
  store,
  transaction,
  problem,
}) =>
  transaction(async () => {
    const call = key && (await load.from(db.portCall).row(...key));
    if (!call) return null;
    if (!EXPECTED.includes(call.status))
      throw problem('not-expected', {
        detail: `It is ${call.status}.`,
        members: { callStatus: call.status },
      });
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
