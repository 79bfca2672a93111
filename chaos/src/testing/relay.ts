import { type AddressInfo, connect, createServer, type Server, type Socket } from 'node:net';

/** Something between a client and a server that can be cut, or led to another server. */
export class Relay {
  readonly #server: Server;
  readonly #sockets = new Set<Socket>();
  #target: number;
  #isStopped = false;

  private constructor(target: number) {
    this.#target = target;
    this.#server = createServer((client) => this.#pipe(client));
  }

  static async start(target: number): Promise<Relay> {
    const relay = new Relay(target);
    await new Promise<void>((resolve) => relay.#server.listen(0, '127.0.0.1', resolve));
    return relay;
  }

  get port(): number {
    return (this.#server.address() as AddressInfo).port;
  }

  #pipe(client: Socket): void {
    if (this.#isStopped) return void client.resetAndDestroy();
    const server = connect(this.#target, '127.0.0.1');
    for (const [from, to] of [
      [client, server],
      [server, client],
    ] as const) {
      this.#sockets.add(from);
      from.on('error', () => to.destroy());
      from.on('close', () => {
        this.#sockets.delete(from);
        to.destroy();
      });
      from.pipe(to);
    }
  }

  /** Ends some of what goes through it now. @param share from 0 to 1 */
  cut(share = 1): void {
    for (const socket of this.#sockets) if (Math.random() < share) socket.resetAndDestroy();
  }

  /** Leads who comes next elsewhere. */
  leadTo(target: number): void {
    this.#target = target;
    this.cut();
  }

  /** Lets nobody through. */
  block(isStopped: boolean): void {
    this.#isStopped = isStopped;
    if (isStopped) this.cut();
  }

  async stop(): Promise<void> {
    this.cut();
    await new Promise((resolve) => this.#server.close(resolve));
  }
}
