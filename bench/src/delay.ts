import { connect, createServer, type Socket } from 'node:net';

/** A server that hands on what it is sent to another one, and back, each a little later. */
export interface Delay {
  readonly port: number;
  close(): void;
}

/** Hands on chunks in order, each so many milliseconds later. */
const later = (from: Socket, to: Socket, milliseconds: number): void => {
  const hand = (chunk: Buffer): void => {
    if (to.writable) to.write(chunk);
  };
  // A timer waits for a millisecond at least.
  from.on('data', (chunk: Buffer) =>
    milliseconds === 0 ? hand(chunk) : setTimeout(() => hand(chunk), milliseconds),
  );
  from.on('close', () => setTimeout(() => to.destroy(), milliseconds));
  from.on('error', () => to.destroy());
};

/**
 * Stands in front of a server as a network would.
 *
 * @param roundTrip milliseconds that a question and its answer take on their way
 */
export const delayed = (host: string, port: number, roundTrip: number): Promise<Delay> => {
  const sockets = new Set<Socket>();
  const server = createServer({ noDelay: true }, (near) => {
    const far = connect({ host, port, noDelay: true });
    for (const socket of [near, far]) sockets.add(socket);
    later(near, far, roundTrip / 2);
    later(far, near, roundTrip / 2);
  });
  return new Promise((resolve) => {
    server.listen(0, '127.0.0.1', () => {
      const address = server.address();
      if (address === null || typeof address === 'string') throw new Error('delay: there is no port');
      resolve({
        port: address.port,
        close: () => {
          for (const socket of sockets) socket.destroy();
          server.close();
        },
      });
    });
  });
};
