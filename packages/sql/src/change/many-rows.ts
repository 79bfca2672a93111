import { ConflictError } from 'gribo';

/** What many rows are stored with, all of it in one transaction. */
interface Storing {
  /** Stores rows in as few statements as there can be. @throws {ConflictError} */
  insert(changes: readonly object[]): Promise<void>;
  /** Runs a statement that is text. */
  execute(statement: string): Promise<unknown>;
}

const SAVEPOINT = 'gribo_batch';

/** Stores rows batch by batch, and finds the row of a batch that does not fit. */
export class ManyRows {
  readonly #storing: Storing;
  #count = 0;

  constructor(storing: Storing) {
    this.#storing = storing;
  }

  /** How many rows are stored so far. */
  get count(): number {
    return this.#count;
  }

  /** @throws {ConflictError} with the row's place among all, where it can be told */
  async add(batch: readonly object[]): Promise<void> {
    if (batch.length === 0) return;
    const { insert, execute } = this.#storing;
    await execute(`savepoint ${SAVEPOINT}`);
    try {
      await insert(batch);
    } catch (error) {
      throw error instanceof ConflictError ? await this.#placed(batch, error) : error;
    }
    await execute(`release savepoint ${SAVEPOINT}`);
    this.#count += batch.length;
  }

  /** A statement makes many rows and does not tell which of them is wrong: the same rows again, by themselves. */
  async #placed(batch: readonly object[], found: ConflictError): Promise<ConflictError> {
    const { insert, execute } = this.#storing;
    await execute(`rollback to savepoint ${SAVEPOINT}`);
    for (const [i, change] of batch.entries()) {
      try {
        await insert([change]);
      } catch (error) {
        if (!(error instanceof ConflictError)) throw error;
        const { reason, entity, columns } = error;
        return new ConflictError(reason, entity, columns, { cause: error, row: this.#count + i });
      }
    }
    return found;
  }
}
