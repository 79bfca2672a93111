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

/** Takes no more connections. A server of `node:http` would close those that are kept open at once, and what was on its way would be lost. */
const stopListening = async (server: ClosedServer): Promise<void> => {
  const { Server } = await import('node:net');
  if (server instanceof Server) Server.prototype.close.call(server, () => undefined);
  else server.close(() => undefined);
};

/** Lets go of all connections, in the end of those too that do not let go. */
const letGo = async (server: ClosedServer, soon: number): Promise<void> => {
  // It was told to before: what it says to that is of no use. This time it ends what it kept for itself.
  server.close(() => undefined);
  server.closeIdleConnections?.();
  await pause(soon);
  server.closeAllConnections?.();
};

/** Lets what is being answered be answered, and nothing new begin. */
export const close = async (flights: Flights, { within = WITHIN, server }: Closing): Promise<void> => {
  const end = performance.now() + within;
  const left = (): number => Math.max(0, end - performance.now());
  flights.close();
  if (server !== undefined) {
    await takeWaiting(server, within / 2);
    await stopListening(server);
  }
  await flights.idle(left());
  if (server !== undefined) await pause(Math.min(LINGERING, left()));
  if ((await flights.idle(left())) > 0) {
    flights.abort();
    await flights.idle(ENDING);
  }
  if (server !== undefined) await letGo(server, Math.min(LINGERING / 5, within));
};
