import type { Choose } from './random-office.js';

const pick = <T>(choose: Choose, from: readonly T[]): T => from[choose(from.length)] as T;

/** A request that changes something. */
export interface ChangeRequest {
  readonly method: 'POST' | 'PATCH' | 'DELETE';
  readonly path: string;
  readonly body: object | null;
  /** JSON where it is left out. */
  readonly type?: 'application/x-ndjson';
}

/** What a row of each entity is needed by, as paths name them. */
const NEEDED: Readonly<Record<string, readonly string[]>> = {
  operators: ['operator', 'vessel'],
  vessels: ['portCall'],
  pilots: ['pilotage'],
  calls: ['pilotage'],
};

/**
 * Whether what a change is answered may tell of what is hidden: that a key is taken, and that a row is still needed, whoever sees the
 * rows that do. docs/callers.md lists it.
 *
 * @param what what was done to hidden rows
 */
export const mayTell = ({ method, path, body }: ChangeRequest, what: string): boolean => {
  if (method === 'DELETE')
    return (NEEDED[path.split('/')[1] ?? ''] ?? []).some((entity) =>
      new RegExp(`(?:added|removed): ${entity}\\b`).test(what),
    );
  return what.includes('pilotage') && /"(?:calls|crew)":/.test(JSON.stringify(body));
};

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
  const key = (): string => callId(1 + choose(7));
  switch (choose(12)) {
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
    case 5:
      return { method: 'PATCH', path: `/vessels/${vesselId()}`, body: { calls: [call(100 + turn)] } };
    case 6:
      return {
        method: 'DELETE',
        path: pick(choose, [
          `/operators/${1 + choose(4)}`,
          `/vessels/${vesselId()}`,
          `/pilots/${1 + choose(4)}`,
          `/calls/${key()}`,
        ]),
        body: null,
      };
    case 7:
    case 8: {
      const many = [0, 1, 2].map((at) => ({ ...call(200 + 10 * turn + at), vesselId: vesselId() }));
      const type = pick(choose, [{}, { type: 'application/x-ndjson' as const }]);
      return { method: 'POST', path: '/many-calls', body: many, ...type };
    }
    case 9:
      return {
        method: 'PATCH',
        path: '/many-vessels',
        body: [1, 2].map(() => ({ id: vesselId(), operatorId: operatorId() })),
      };
    case 10:
      return { method: 'POST', path: `/calls/${key()}/assign`, body: { vesselId: vesselId() } };
    default: {
      const calls = [{ id: callId(400 + turn), pilotId: 1 + choose(5) }].slice(choose(2));
      return { method: 'POST', path: '/enlist', body: { operatorId: operatorId(), calls } };
    }
  }
};
