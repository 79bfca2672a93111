import { setTimeout as pause } from 'node:timers/promises';
import type { Flights } from './flights.js';

/** What is used of a server of `node:http`. */
export interface ClosedServer {
  close(told?: (error?: Error) => void): unknown;
  on?(event: 'connection', told: () => void): unknown;
  off?(event: 'connection', told: () => void): unknown;
  closeIdleConnections?(): void;
  closeAllConnections?(): void;
}

/** How a server goes. */
export interface Closing {
  /** Milliseconds that requests have to be answered in; what is not answered then is given up. Default: 10,000. */
  readonly within?: number;
  /** The server of `node:http` or `node:https` that hosts it: it takes no more connections, and lets go of those that it has. */
  readonly server?: ClosedServer;
}

const WITHIN = 10_000;

/** Milliseconds for which connections that nothing is asked on are kept: something may be on its way. */
const LINGERING = 500;

/** Milliseconds that work has to end in when it was given up. */
const ENDING = 1000;

/** Turns of the event loop, of some milliseconds each, without a new connection: then none waits to be taken. */
const QUIET_TURNS = 10;
const TURN = 5;

/** Takes the connections that wait to be taken: the system would reset them. One is taken in each turn. */
const takeWaiting = async (server: ClosedServer, milliseconds: number): Promise<void> => {
  const end = performance.now() + milliseconds;
  let quiet = 0;
  const taken = (): void => {
    quiet = 0;
  };
  server.on?.('connection', taken);
  for (; quiet < QUIET_TURNS && performance.now() < end; quiet++) await pause(TURN);
  server.off?.('connection', taken);
};

/**
 * Takes no more connections. A server of `node:http` would close those that are kept open at once, and what was on its way would
 * be lost.
 *
 * @returns settles when all connections have ended
 */
const stopListening = async (server: ClosedServer): Promise<{ readonly ended: Promise<void> }> => {
  const { Server } = await import('node:net');
  const ended = new Promise<void>((resolve) => {
    if (server instanceof Server) Server.prototype.close.call(server, () => resolve());
    else server.close(() => resolve());
  });
  return { ended };
};

/** Lets go of connections that nothing is asked on; the others end when their answer is sent, or when the time is up. */
const letGo = async (server: ClosedServer, ended: Promise<void>, milliseconds: number): Promise<void> => {
  // It was told to before: what it says to that is of no use. This time it ends what it kept for itself.
  server.close(() => undefined);
  server.closeIdleConnections?.();
  const over = new AbortController();
  const late = pause(milliseconds, undefined, { signal: over.signal }).catch(() => undefined);
  await Promise.race([ended, late]);
  over.abort();
  server.closeAllConnections?.();
};

/** Waits for what is being answered, and gives up what is not answered in time. */
const land = async (flights: Flights, left: () => number): Promise<void> => {
  if ((await flights.idle(left())) === 0) return;
  flights.abort();
  await flights.idle(ENDING);
};

/** Lets what is being answered be answered, and nothing new begin. */
export const close = async (flights: Flights, { within = WITHIN, server }: Closing): Promise<void> => {
  const end = performance.now() + within;
  const left = (): number => Math.max(0, end - performance.now());
  flights.close();
  if (server === undefined) return land(flights, left);
  await takeWaiting(server, within / 2);
  const { ended } = await stopListening(server);
  await flights.idle(left());
  await pause(Math.min(LINGERING, left()));
  await land(flights, left);
  // What was given up has its answer too.
  await letGo(server, ended, Math.max(LINGERING, left()));
};
