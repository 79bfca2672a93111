import type { AnyBody } from '../declare/types/shape-types.js';
import type { SituationFor } from '../declare/types/situation-types.js';
import type { RowError } from '../errors/row-error.js';
import type { ResolvedField, ResolvedNode, ResolvedShape } from '../plan/resolved.js';
import type { Situation } from '../plan/situation.js';
import { resolve } from '../resolve/resolve.js';
import { Enough } from '../util/enough.js';
import { factsFor, type GivenFacts } from '../values/facts-for.js';
import { Misfit } from '../values/misfit.js';
import { Interpreter, segmentOf } from './interpreted/interpret.js';
import { arrayLike, asRow, follow, type LooseRow } from './read-column.js';
import { type Facts, type Read, readCondition, rowsOf } from './read-value.js';

/** So many are found at most: where a query lacks a column, every row does. */
const MOST_MISFITS = 100;

/** Walks a shape beside a row, and gathers what stops a writer, where that would stop at the first. */
class MisfitFinder {
  readonly found: RowError[] = [];
  readonly #facts: Facts;
  readonly #root: string;
  readonly #interpreter = new Interpreter();
  readonly #makers = new Map<ResolvedNode, Read>();

  constructor(root: string, facts: Facts) {
    this.#root = root;
    this.#facts = facts;
  }

  rows(shape: ResolvedShape, data: unknown, at: string): void {
    const rows = arrayLike(data);
    if (rows === null) return this.#add(new Misfit('ROW_TYPE', 'an array of rows', data), at);
    for (let i = 0; i < rows.length; i++) this.row(shape, rows[i], `${at}[${i}]`);
  }

  row(shape: ResolvedShape, given: unknown, at: string): void {
    const row = this.#tried(at, () => asRow(given));
    if (row !== undefined) this.#fields(shape.fields, row, at);
  }

  #fields(fields: readonly ResolvedField[], row: LooseRow, at: string): void {
    for (const { name, condition, node } of fields) {
      const inside = at + segmentOf(name);
      const isThere =
        condition === null || this.#tried(inside, () => readCondition(condition)(row, this.#facts));
      if (isThere === true) this.#node(node, row, inside);
    }
  }

  #node(node: ResolvedNode, row: LooseRow, at: string): void {
    switch (node.kind) {
      case 'group':
        return this.#fields(node.fields, row, at);
      case 'nested': {
        const behind = this.#tried(at, () => follow(row, node.path));
        if (behind != null) this.row(node.shape, behind, at);
        return;
      }
      case 'nestedList':
      case 'first': {
        const { path, link, shape } = node;
        const selection = node.kind === 'first' ? { ...node.selection, limit: 1 } : node.selection;
        const rows = this.#tried(at, () => {
          const behind = follow(row, path);
          return behind === null ? null : rowsOf(behind, link, selection, this.#facts);
        });
        if (rows != null) this.rows(shape, rows, at);
        return;
      }
      default:
        this.#tried(at, () => this.#maker(node)(row, this.#facts));
    }
  }

  #maker(node: ResolvedNode): Read {
    const known = this.#makers.get(node) ?? this.#interpreter.node(node);
    this.#makers.set(node, known);
    return known;
  }

  /** What is read, or undefined where that did not fit. */
  #tried<T>(at: string, read: () => T): T | undefined {
    try {
      return read();
    } catch (error) {
      if (!(error instanceof Misfit)) throw error;
      this.#add(error, at);
      return undefined;
    }
  }

  #add(misfit: Misfit, at: string): void {
    this.found.push(misfit.toRowError(this.#root + at));
    if (this.found.length === MOST_MISFITS) throw new Enough();
  }
}

/**
 * Finds everything in rows that a body cannot be written from: a column that was not selected, a link that was not loaded, a
 * value of another type. A writer stops at the first; this is for seeing, in a test or while a query is written, what it lacks.
 *
 * @param body a shape, `list(shape)`, `page(shape)` or one of these wrapped
 * @param data rows as a writer takes them, however they were loaded
 * @param situation as for `writer`
 * @param given the facts about the caller that members and conditions use
 * @returns the errors, each with its `path`, `expected` and message; none where all of it can be written; 100 at most
 * @throws {GriboError} `CALLER` where a fact is missing
 * @example
 * misfitsIn(VesselCard, { id: 1 }).map(({ path }) => path); // => ['VesselCard.name']
 */
export const misfitsIn = <
  B extends AnyBody,
  const A extends string | null,
  const E extends string,
  const N extends string,
  const P extends string,
>(
  body: B,
  data: unknown,
  situation: SituationFor<B, A, E, N, P> = {},
  given?: GivenFacts,
): readonly RowError[] => {
  const { kind, shape, facts } = resolve(body, situation as Situation);
  const finder = new MisfitFinder(shape.name, factsFor(facts, given));
  try {
    if (kind === 'list') finder.rows(shape, data, '');
    else finder.row(shape, data, '');
  } catch (error) {
    if (!(error instanceof Enough)) throw error;
  }
  return Object.freeze(finder.found);
};
