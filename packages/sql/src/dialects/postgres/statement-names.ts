/**
 * Statements that read. What changes rows is not prepared: it runs in transactions, where nothing can be run again, and a
 * prepared statement still wants the types that its columns had.
 */
const PREPARED = /^\s*(?:select|with)\b/i;

/** So many texts are remembered until they come again. */
const SEEN = 1000;

/** The names under which statements are prepared: only of those that come again, and no more than so many. */
export class StatementNames {
  readonly #most: number;
  readonly #names = new Map<string, string>();
  readonly #seen = new Set<string>();
  #made = 0;
  #isOver = false;

  constructor(most: number) {
    this.#most = most;
  }

  /** The name of a statement; null where it is not to be prepared. */
  of(text: string): string | null {
    const known = this.#names.get(text);
    if (known !== undefined) return known;
    if (this.#isOver || this.#names.size >= this.#most || !PREPARED.test(text)) return null;
    if (!this.#seen.delete(text)) {
      if (this.#seen.size >= SEEN) this.#seen.clear();
      this.#seen.add(text);
      return null;
    }
    // A name is never given twice: a connection may know an older statement by it.
    const name = `gribo_${this.#made++}`;
    this.#names.set(text, name);
    return name;
  }

  /** Takes a name away; the statement gets another one when it comes again. */
  forget(text: string): void {
    this.#names.delete(text);
  }

  /** Takes all names away: what is prepared under them is of columns that may have other types by now. */
  renew(): void {
    this.#names.clear();
  }

  /** Gives no more names. */
  end(): void {
    this.#isOver = true;
    this.#names.clear();
  }
}
