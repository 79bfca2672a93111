/** Tells work that it is given up. Most work never asks, and nothing is made for it. */
export class GiveUp {
  #controller: AbortController | null = null;
  #reason: Error | null = null;

  /** Why it is given up; null: it is not. */
  get reason(): Error | null {
    return this.#reason;
  }

  get signal(): AbortSignal {
    if (this.#controller === null) {
      this.#controller = new AbortController();
      if (this.#reason !== null) this.#controller.abort(this.#reason);
    }
    return this.#controller.signal;
  }

  abort(reason: Error): void {
    if (this.#reason !== null) return;
    this.#reason = reason;
    this.#controller?.abort(reason);
  }
}
