/** Milliseconds that locks of others are waited for: well below the time that an answer may take. */
export const LOCK_TIMEOUT = 5000;

/** Knows the connections whose transaction could not be begun or ended whole: whoever had them next might go on in it. */
export class Lent {
  readonly #broken = new WeakSet<object>();

  isBroken(connection: object): boolean {
    return this.#broken.has(connection);
  }

  /** Begins a transaction, or takes it back. */
  async turns(connection: object, work: () => Promise<unknown>): Promise<void> {
    try {
      await work();
    } catch (error) {
      this.#broken.add(connection);
      throw error;
    }
  }
}
