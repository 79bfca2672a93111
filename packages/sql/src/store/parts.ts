/**
 * Changes within a transaction that somebody else began: each is done whole or taken back, and the transaction goes on. They take
 * turns, for savepoints stand inside each other.
 */
export class Parts {
  readonly #execute: (text: string) => Promise<unknown>;
  readonly #name: string;
  #turn: Promise<unknown> = Promise.resolve();

  /** @param depth how deep they stand inside others: at each depth there is one at a time, so that few names are enough */
  constructor(depth: number, execute: (text: string) => Promise<unknown>) {
    this.#name = `gribo_${depth}`;
    this.#execute = execute;
  }

  run<T>(work: () => Promise<T>): Promise<T> {
    const own = this.#turn.then(() => this.#part(work));
    // What comes next does so whether this fails or not.
    this.#turn = own.catch(() => undefined);
    return own;
  }

  async #part<T>(work: () => Promise<T>): Promise<T> {
    const name = this.#name;
    await this.#execute(`savepoint ${name}`);
    try {
      const result = await work();
      await this.#execute(`release savepoint ${name}`);
      return result;
    } catch (error) {
      // Where the database has ended the transaction there is nothing to go back to: the cause is what was thrown first.
      await this.#execute(`rollback to savepoint ${name}`).catch(() => undefined);
      throw error;
    }
  }
}
