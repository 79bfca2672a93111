import { Problem } from '../problems/problem.js';
import { RETRY_AFTER } from '../problems/retry-after.js';
import { GiveUp } from './give-up.js';

/** One request from its start until the last of its answer is made. */
export class Flight {
  /** Whether its host tells when the last of its answer has gone out. */
  isTold = false;
  readonly #flights: Flights;
  #giveUp: GiveUp | null = null;

  constructor(flights: Flights) {
    this.#flights = flights;
  }

  /** Most requests are never given up, and nothing is made for that. */
  get giveUp(): GiveUp {
    this.#giveUp ??= new GiveUp();
    return this.#giveUp;
  }

  /** Why it is given up; null: it is not. */
  get reason(): Error | null {
    return this.#giveUp?.reason ?? null;
  }

  /** The last of its answer is made. */
  made(): void {
    if (!this.isTold) this.end();
  }

  end(): void {
    this.#flights.end(this);
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
    const flight = new Flight(this);
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

  end(flight: Flight): void {
    this.#all.delete(flight);
    if (this.#all.size > 0) return;
    for (const told of this.#waiting) told();
    this.#waiting.clear();
  }
}
