import type { Store } from 'gribo';
import type { Answer } from '../message/answer.js';
import { inTime, tooSlow } from '../settings/time-limit.js';

/** Milliseconds that the store may take to answer, and for which that is known. */
const PATIENCE = 2000;
const KEPT = 1000;

/** How a store is: fast enough to tell, or why not. */
interface State {
  readonly isThere: boolean;
  readonly milliseconds: number;
  readonly at: Date;
}

/** Says whether a service can answer. However often it is asked, the store is asked once a second. */
export class Health {
  readonly #opened: () => Store | Promise<Store>;
  readonly #now: () => Date;
  #state: Promise<State> | null = null;
  #asked = 0;

  constructor(opened: () => Store | Promise<Store>, now: () => Date) {
    this.#opened = opened;
    this.#now = now;
  }

  /**
   * The answer, in the words of the IETF's draft on health checks (application/health+json).
   *
   * @param isClosing whether the server is going: then nobody should be sent to it any more
   */
  async answer(method: string, isClosing: boolean): Promise<Answer> {
    if (performance.now() - this.#asked > KEPT) this.#state = null;
    if (this.#state === null) {
      this.#asked = performance.now();
      this.#state = this.#look();
    }
    const { isThere, milliseconds, at } = await this.#state;
    const status = isThere && !isClosing ? 'pass' : 'fail';
    const check = {
      componentType: 'datastore',
      status: isThere ? 'pass' : 'fail',
      observedValue: milliseconds,
      observedUnit: 'ms',
      time: at.toISOString(),
    };
    const body = {
      status,
      ...(isClosing ? { notes: ['the service is going down'] } : {}),
      checks: { store: [check] },
    };
    return {
      status: status === 'pass' ? 200 : 503,
      headers: { 'content-type': 'application/health+json', 'cache-control': 'no-store' },
      content: method === 'HEAD' ? null : JSON.stringify(body),
    };
  }

  async #look(): Promise<State> {
    const start = performance.now();
    const isThere = await inTime(this.#ping(), PATIENCE, () => tooSlow(PATIENCE)).then(
      () => true,
      () => false,
    );
    return { isThere, milliseconds: Math.round(performance.now() - start), at: this.#now() };
  }

  async #ping(): Promise<void> {
    await (await this.#opened()).ping?.();
  }
}
