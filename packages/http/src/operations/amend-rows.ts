import { ConflictError, type Key, pointerPart, type Store } from 'gribo';
import {
  bareIssue,
  type InputPlan,
  inKeyOrder,
  type KeyValue,
  Repeatable,
  spoken,
  type Values,
} from 'gribo/kit';
import { notFound } from '../problems/not-found.js';
import { refused } from '../request/read-body.js';
import type { TakenRows } from '../request/read-rows.js';
import { atItsLine } from './at-its-line.js';
import type { Exchange } from './exchange.js';
import { type Outcome, plain } from './outcome.js';

/** The member of a body that sets a column. */
const memberOf = ({ fields }: InputPlan, column: string): string =>
  fields.find(({ node }) => node.kind === 'set' && node.column.name === column)?.name ?? column;

/** Amends one of many rows by the key that it has itself. @throws {Problem} 422 where it names none */
class AmendedRow {
  readonly #exchange: Exchange;
  readonly #place: number;
  readonly #line: number | undefined;

  constructor(exchange: Exchange, place: number, line: number | undefined) {
    this.#exchange = exchange;
    this.#place = place;
    this.#line = line;
  }

  async amend(store: Store, change: Values): Promise<void> {
    const { endpoint, takes, where, signal } = this.#exchange;
    const { entity } = endpoint;
    const missing = entity.key.filter((name) => change[name] === undefined);
    if (takes !== null && missing.length > 0)
      throw this.#refused(missing.map((name) => [pointerPart(memberOf(takes, name)), 'required'] as const));
    const key: Key = entity.key.map((name) => change[name] as KeyValue);
    const rest = Object.fromEntries(Object.entries(change).filter(([name]) => !entity.key.includes(name)));
    if (!(await this.#amended(store, key, rest, where, signal))) throw this.#refused([['', 'conflict']]);
  }

  async #amended(
    store: Store,
    key: Key,
    rest: Values,
    where: Exchange['where'],
    signal: AbortSignal,
  ): Promise<boolean> {
    try {
      return await store.amend(this.#exchange.endpoint.entity.name, key, rest, { where, signal });
    } catch (error) {
      // By its code: there may be two copies of the package.
      const { code, reason, entity, columns } = error as Partial<ConflictError>;
      if (code !== 'CONFLICT' || reason === undefined || entity === undefined) throw error;
      throw new ConflictError(reason, entity, columns ?? [], { cause: error, row: this.#place });
    }
  }

  #refused(found: readonly (readonly [pointer: string, code: 'required' | 'conflict'])[]): Error {
    const { say } = this.#exchange.settings;
    const line = this.#line === undefined ? {} : { line: this.#line };
    const issues = found.map(([pointer, code]) => {
      const issue = spoken(bareIssue(`${pointerPart(String(this.#place))}${pointer}`, code), say);
      return { ...issue, ...(code === 'conflict' ? { message: notFound().message } : {}), ...line };
    });
    return refused(issues);
  }
}

/** A change of one of many rows, with its place among them. */
interface Placed {
  readonly change: Values;
  readonly place: number;
}

/** Amends many rows, all of them or none. */
export const amendRows = async (exchange: Exchange, rows: TakenRows): Promise<Outcome> => {
  const source = new Repeatable(rows);
  const key = exchange.endpoint.entity.columns.filter((column) => column.key);
  const amend = async (within: Store): Promise<void> => {
    let first = 0;
    for await (const batch of source) {
      const placed = batch.map((change, i): Placed => ({ change: change as Values, place: first + i }));
      // Whoever else amends some of the same rows waits at the first of them, and not each for the other.
      for (const { change, place } of inKeyOrder(key, placed, (one, name) => one.change[name]))
        await new AmendedRow(exchange, place, rows.lineOf(place)).amend(within, change);
      first += batch.length;
    }
  };
  try {
    await exchange.store.transaction(amend, { again: () => source.isWhole });
  } catch (error) {
    throw atItsLine(error, rows, exchange);
  } finally {
    await source.end();
  }
  return plain(null);
};
