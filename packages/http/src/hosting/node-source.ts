import type { IncomingMessage } from 'node:http';
import { GriboError } from 'gribo';
import type { Part, Source } from '../message/asked.js';

/** What may bring the next part, or the end of them. */
const EVENTS = ['readable', 'end', 'close'] as const;

/** The parts of the body of a request of Node's, at once where they have arrived. */
export class NodeSource implements Source {
  readonly #incoming: IncomingMessage;

  constructor(incoming: IncomingMessage) {
    this.#incoming = incoming;
  }

  read(): Part | Promise<Part> {
    return this.#next() ?? this.#waited();
  }

  cancel(): void {
    // Whoever answers says whether the connection ends; what comes until then is thrown away.
    this.#incoming.resume();
  }

  #next(): Part | null {
    const value = this.#incoming.read() as Uint8Array | null;
    if (value !== null) return { done: false, value };
    if (this.#incoming.complete && this.#incoming.readableLength === 0) return { done: true };
    if (this.#incoming.destroyed) throw new GriboError('ENDED', 'request', 'the connection was closed');
    return null;
  }

  #waited(): Promise<Part> {
    const incoming = this.#incoming;
    return new Promise((resolve, reject) => {
      const settle = (): void => {
        for (const event of EVENTS) incoming.off(event, look);
        incoming.off('error', failed);
      };
      const failed = (error: unknown): void => {
        settle();
        reject(error);
      };
      const look = (): void => {
        try {
          const part = this.#next();
          if (part === null) return;
          settle();
          resolve(part);
        } catch (error) {
          failed(error);
        }
      };
      for (const event of EVENTS) incoming.on(event, look);
      incoming.on('error', failed);
    });
  }
}

/** The one part of a body that was read before. */
export const readBefore = (bytes: Uint8Array): Source => {
  let isRead = false;
  return {
    read: () => {
      if (isRead) return { done: true };
      isRead = true;
      return { done: false, value: bytes };
    },
    cancel: () => undefined,
  };
};
