import type { Choose } from './random-office.js';

const pick = <T>(choose: Choose, from: readonly T[]): T => from[choose(from.length)] as T;

/** A request that changes something. */
export interface ChangeRequest {
  readonly method: 'POST' | 'PATCH';
  readonly path: string;
  readonly body: object;
}

/** A request of a random office that changes something, and names rows that there are, that are hidden, and that there are not. */
export const silentChange = (
  choose: Choose,
  callId: (last: number) => string,
  turn: number,
): ChangeRequest => {
  const vesselId = (): number => 1 + choose(7);
  const operatorId = (): number | null => pick(choose, [null, 1, 2, 3, 4, 5]);
  const crew = (): object => (choose(2) === 0 ? {} : { crew: [{ id: 1 + choose(5) }] });
  const call = (last: number): object => ({
    // Nobody else chooses such a key.
    id: callId(700 + last),
    eta: '2026-04-20T06:00:00Z',
    status: pick(choose, ['announced', 'berthed', 'sailed']),
    remarks: null,
    ...crew(),
  });
  switch (choose(6)) {
    case 0:
    case 1:
      return { method: 'POST', path: '/calls', body: { ...call(turn), vesselId: vesselId() } };
    case 2:
      return {
        method: 'PATCH',
        path: `/calls/${callId(1 + choose(7))}`,
        body: { ...(choose(2) === 0 ? { vesselId: vesselId() } : { remarks: 's' }), ...crew() },
      };
    case 3:
      return { method: 'PATCH', path: `/operators/${1 + choose(4)}`, body: { parentId: operatorId() } };
    case 4:
      return { method: 'PATCH', path: `/vessels/${vesselId()}`, body: { operatorId: operatorId() } };
    default:
      return { method: 'PATCH', path: `/vessels/${vesselId()}`, body: { calls: [call(100 + turn)] } };
  }
};
