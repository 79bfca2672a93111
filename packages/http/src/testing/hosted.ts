import type { Server } from 'node:http';
import { type AddressInfo, connect } from 'node:net';

/** A server on a port of its own. */
export interface Hosted {
  readonly port: number;
  close(): Promise<void>;
}

/** Hosts a server on any free port of this machine. */
export const hosted = (server: Server): Promise<Hosted> =>
  new Promise((resolve) => {
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo;
      const close = (): Promise<void> =>
        new Promise((done) => {
          server.close(() => done());
          server.closeAllConnections();
        });
      resolve({ port, close });
    });
  });

/** Writes raw text to a socket and gives what comes back until it ends. */
export const raw = (port: number, text: string): Promise<string> =>
  new Promise((resolve, reject) => {
    const socket = connect(port, '127.0.0.1', () => socket.write(text));
    let got = '';
    socket.setEncoding('utf8');
    socket.on('data', (chunk) => {
      got += String(chunk);
    });
    socket.on('close', () => resolve(got));
    socket.on('error', reject);
    socket.setTimeout(60_000, () => socket.destroy());
  });
