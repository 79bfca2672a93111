import type { ChangePlan, Values } from '../change/change-plan.js';
import { runChange, type Work } from '../change/run-change.js';
import { ConflictError } from '../errors/conflict-error.js';
import type { ColumnPlan, EntityPlan } from '../plan/entity-plan.js';
import { satisfiesAll } from '../values/satisfies.js';
import { keptValues } from './kept-values.js';
import { madeOf } from './made.js';
import { joinText, type MemoryRow } from './memory-table.js';
import type { MemoryTables } from './memory-tables.js';

/** What the platform makes for columns that no change sets. */
export interface MemoryMakers {
  /** The moment of the change. */
  readonly now: Date;
  readonly uuid: () => string;
}

/** One change of the rows in memory: it is done whole, or undone. */
export class MemoryChange {
  readonly #tables: MemoryTables;
  readonly #makers: MemoryMakers;
  readonly #undo: (() => void)[] = [];
  readonly #put: { readonly entity: EntityPlan; readonly row: MemoryRow; readonly of: number | null }[] = [];
  readonly #removed: { readonly entity: EntityPlan; readonly row: MemoryRow }[] = [];

  /** Of many changes, which one is at work. */
  #of: number | null = null;

  constructor(tables: MemoryTables, makers: MemoryMakers) {
    this.#tables = tables;
    this.#makers = makers;
  }

  /** Takes everything back, what was done last first. */
  undo(): void {
    for (const undo of this.#undo.reverse()) undo();
    this.#undo.length = 0;
  }

  /** Does the work and checks that rows fit each other; where it fails, nothing has changed. */
  run<T>(work: (change: this) => T): T {
    try {
      const result = work(this);
      for (const { entity, row, of } of this.#put) {
        this.#of = of;
        this.#checkStored(entity, row);
      }
      for (const { entity, row } of this.#removed) this.#checkNotNeeded(entity, row);
      return result;
    } catch (error) {
      this.undo();
      throw this.#placed(error);
    }
  }

  /** A conflict, with the change that it is about where there are many. */
  #placed(error: unknown): unknown {
    if (!(error instanceof ConflictError) || this.#of === null) return error;
    const { reason, entity, columns } = error;
    return new ConflictError(reason, entity, columns, { cause: error, row: this.#of });
  }

  /** Runs one plan of many. */
  stepsOf(at: number, plan: ChangePlan): void {
    this.#of = at;
    this.steps(plan, () => true);
  }

  /**
   * Runs a plan.
   *
   * @param isMeant whether the row that the change is about is the one that is meant
   * @returns that row; null where there is none
   */
  steps(plan: ChangePlan, isMeant: (row: MemoryRow) => boolean): Values | null {
    const run = runChange(plan);
    let next = run.next();
    while (next.done !== true) next = run.next(this.#do(next.value, isMeant));
    return next.value;
  }

  #do(work: Work, isMeant: (row: MemoryRow) => boolean): readonly MemoryRow[] {
    switch (work.kind) {
      case 'find': {
        const [row] = this.#having(work.entity, work.by);
        return row === undefined || (work.isRoot && !isMeant(row)) ? [] : [row];
      }
      case 'insert':
        return this.insert(work.entity, work.rows);
      case 'update':
        this.#update(work.entity, work.row, work.set);
        return [];
      case 'remove':
        for (const row of [...this.#having(work.entity, work.by)])
          if (satisfiesAll(work.where, row)) this.#remove(work.entity, row);
        return [];
      case 'reference':
        return work.among.filter((values) =>
          this.#having(work.entity, values).some((row) => satisfiesAll(work.conditions, row)),
        );
      case 'test':
        return work.among
          .flatMap((values) => this.#having(work.entity, values))
          .filter((row) => satisfiesAll(work.where, row) && !satisfiesAll(work.conditions, row));
      default:
        return work satisfies never;
    }
  }

  /** Stores new rows. */
  insert(name: string, rows: readonly Values[]): readonly MemoryRow[] {
    const { entity } = this.#tables.linked(name);
    return rows.map((own) => {
      const values = Object.fromEntries(
        entity.columns.map((column) => [column.name, this.#valueOf(entity, column, own[column.name])]),
      );
      const row = this.#tables.row(name, values);
      this.#store(entity, row);
      return row;
    });
  }

  #having(name: string, by: Values): readonly MemoryRow[] {
    const names = Object.keys(by);
    const table = this.#tables.table(name);
    return table.having(names, joinText(keptValues(table.entity, by), names));
  }

  #update(name: string, row: Values, set: Values): void {
    const { entity } = this.#tables.linked(name);
    const before = this.#tables.table(name).get(this.#tables.table(name).keyText(row));
    if (before === undefined) return;
    const values = Object.fromEntries(
      entity.columns.map(({ name: column }) => [column, column in set ? set[column] : before[column]]),
    );
    this.#remove(name, before);
    this.#store(entity, this.#tables.row(name, values));
  }

  #remove(name: string, row: MemoryRow): void {
    const table = this.#tables.table(name);
    this.#undo.push(table.delete(row));
    this.#removed.push({ entity: table.entity, row });
  }

  #store(entity: EntityPlan, row: MemoryRow): void {
    const table = this.#tables.table(entity.name);
    if (table.get(table.keyText(row)) !== undefined) {
      throw new ConflictError('duplicate', entity.name, entity.key);
    }
    const large = entity.columns.filter(
      ({ name, type }) => type.kind === 'integer' && typeof row[name] === 'bigint',
    );
    if (large.length > 0)
      throw new ConflictError(
        'value',
        entity.name,
        large.map(({ name }) => name),
      );
    this.#undo.push(table.put(row));
    this.#put.push({ entity, row, of: this.#of });
  }

  #valueOf(entity: EntityPlan, column: ColumnPlan, value: unknown): unknown {
    if (value !== undefined) return value;
    const made = column.generated || column.defaulted ? this.#made(entity, column) : null;
    if (made === null && !column.nullable) throw new ConflictError('missing', entity.name, [column.name]);
    return made;
  }

  /** What a database would make: the next number, a new UUID, the moment. */
  #made(entity: EntityPlan, column: ColumnPlan): unknown {
    switch (madeOf(column.type.kind)) {
      case 'number': {
        const next = this.#tables.table(entity.name).next(column.name);
        return column.type.kind === 'bigint' ? next : Number(next);
      }
      case 'uuid':
        return this.#makers.uuid();
      case 'moment':
        return this.#makers.now;
      case 'day':
        return this.#makers.now.toISOString().slice(0, 10);
      case 'false':
        return false;
      default:
        return null;
    }
  }

  /** What is still there after all must be unique, and name rows that are there. */
  #checkStored(entity: EntityPlan, row: MemoryRow): void {
    const table = this.#tables.table(entity.name);
    if (table.get(table.keyText(row)) !== row) return;
    for (const { name } of entity.columns.filter(({ unique }) => unique)) {
      if (table.having([name], joinText(row, [name])).length > 1) {
        throw new ConflictError('duplicate', entity.name, [name]);
      }
    }
    for (const link of this.#tables.linked(entity.name).links.values()) {
      if (link.reference !== 'here' || joinText(row, link.from) === null) continue;
      if (this.#tables.behind(link, row).length === 0) {
        throw new ConflictError('reference', entity.name, link.from);
      }
    }
  }

  /** No row may be left that names one that is gone. */
  #checkNotNeeded(entity: EntityPlan, row: MemoryRow): void {
    const table = this.#tables.table(entity.name);
    if (table.get(table.keyText(row)) !== undefined) return;
    for (const { entity: other, links } of this.#tables.entities) {
      for (const link of links.values()) {
        if (link.reference !== 'here' || link.target.name !== entity.name) continue;
        const needing = this.#tables.table(other.name).having(link.from, joinText(row, link.to));
        if (needing.length > 0) throw new ConflictError('reference', entity.name, entity.key);
      }
    }
  }
}
