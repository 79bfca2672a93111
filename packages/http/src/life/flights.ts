import { Problem } from '../problems/problem.js';
import { RETRY_AFTER } from '../problems/retry-after.js';
import { GiveUp } from './give-up.js';

/** One request from its start until the last of its answer is made. */
export class Flight {
  readonly giveUp: GiveUp = new GiveUp();
  /** Whether its host tells when the last of its answer has gone out. */
  isTold = false;
  readonly #ended: (flight: Flight) => void;

  constructor(ended: (flight: Flight) => void) {
    this.#ended = ended;
  }

  /** The last of its answer is made. */
  made(): void {
    if (!this.isTold) this.end();
  }

  end(): void {
    this.#ended(this);
  }
}

const going = (): Problem =>
  new Problem(503, {
    detail: 'The service is going down. Try it again elsewhere, or in a moment.',
    headers: RETRY_AFTER,
  });

/** The requests that are being answered, so that a server can wait for them before it goes. */
export class Flights {
  readonly #all = new Set<Flight>();
  readonly #waiting = new Set<() => void>();
  #isClosing = false;

  /** Whether the server is going: whoever asks now should ask another one next. */
  get isClosing(): boolean {
    return this.#isClosing;
  }

  begin(): Flight {
    const flight = new Flight((ended) => this.#end(ended));
    this.#all.add(flight);
    return flight;
  }

  /** From now on it is going. */
  close(): void {
    this.#isClosing = true;
  }

  /** Settles when none is left, or when the time is up. @returns how many are left */
  async idle(milliseconds: number): Promise<number> {
    if (this.#all.size > 0)
      await new Promise<void>((resolve) => {
        const timer = setTimeout(resolve, milliseconds);
        this.#waiting.add(() => {
          clearTimeout(timer);
          resolve();
        });
      });
    return this.#all.size;
  }

  /** Gives up what is not done. */
  abort(): void {
    const reason = going();
    for (const flight of this.#all) flight.giveUp.abort(reason);
  }

  #end(flight: Flight): void {
    this.#all.delete(flight);
    if (this.#all.size > 0) return;
    for (const told of this.#waiting) told();
    this.#waiting.clear();
  }
}
