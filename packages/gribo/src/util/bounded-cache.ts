/** Keeps the values used last, so many at most: the one not used for longest makes room. */
export class BoundedCache<V> {
  readonly #most: number;
  readonly #values = new Map<string, V>();

  constructor(most: number) {
    this.#most = most;
  }

  get size(): number {
    return this.#values.size;
  }

  /** The value of a key, made where it is not kept. A key whose making throws is not kept. */
  get(key: string, make: () => V): V {
    const known = this.#values.get(key);
    if (known !== undefined) {
      this.#values.delete(key);
      this.#values.set(key, known);
      return known;
    }
    const made = make();
    this.#values.set(key, made);
    if (this.#values.size > this.#most) {
      const [oldest] = this.#values.keys();
      if (oldest !== undefined) this.#values.delete(oldest);
    }
    return made;
  }
}
