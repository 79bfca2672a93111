import { connect, type Socket } from 'node:net';
import type { PgClient } from './pg-pool.js';

/** The number that says so, in the place of the protocol's version. */
const CANCEL_REQUEST = 80_877_102;

/** Milliseconds that the server may take to hear of it. */
const PATIENCE = 1000;

/** Where a connection of `pg` leads, and by what the server knows it. */
interface Reached {
  readonly host?: string;
  readonly port?: number;
  readonly processID?: number | null;
  readonly secretKey?: number | null;
}

const socketTo = (host: string, port: number): Socket =>
  host.startsWith('/') ? connect(`${host}/.s.PGSQL.${port}`) : connect(port, host);

const message = (processID: number, secretKey: number): Buffer => {
  const bytes = Buffer.alloc(16);
  [16, CANCEL_REQUEST, processID, secretKey].forEach(
    (number, i) => void bytes.writeInt32BE(number | 0, 4 * i),
  );
  return bytes;
};

/**
 * Asks the server to cancel what a connection runs (PostgreSQL's protocol, "Canceling Requests in Progress"): by a connection
 * of its own, so that it does not wait for one of the pool; poolers pass it on to whoever serves the connection now. What it
 * holds is the key to that and nothing secret else, so it goes unencrypted, as libpq sends it.
 *
 * @param isWanted asked when the server is reached: false where there is nothing to cancel any more
 */
export const cancelRequest = (client: PgClient, isWanted: () => boolean): Promise<void> => {
  const { host = 'localhost', port = 5432, processID, secretKey } = client as Reached;
  if (typeof processID !== 'number' || typeof secretKey !== 'number') return Promise.resolve();
  return new Promise((resolve, reject) => {
    const socket = socketTo(host, port);
    socket.setTimeout(PATIENCE, () => socket.destroy());
    socket.once('error', reject);
    // The server closes it once it has sent the signal.
    socket.once('close', () => resolve());
    socket.once('connect', () => {
      if (isWanted()) socket.write(message(processID, secretKey));
      else socket.destroy();
    });
    socket.resume();
  });
};
