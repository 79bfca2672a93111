import { ConflictError } from '../errors/conflict-error.js';
import type { ColumnPlan, EntityPlan, LinkPlan } from '../plan/entity-plan.js';
import { valueKind } from '../values/kinds.js';
import { joinText, type MemoryRow } from './memory-table.js';
import type { MemoryTables } from './memory-tables.js';

type Values = Readonly<Record<string, unknown>>;

/** What the platform makes for columns that no change sets. */
export interface MemoryMakers {
  readonly now: () => Date;
  readonly uuid: () => string;
}

const pick = (names: readonly string[], from: Values, as: readonly string[]): Values =>
  Object.fromEntries(names.map((name, i) => [as[i] ?? name, from[name]]));

/** One change of the rows in memory: it is done whole, or undone. */
export class MemoryChange {
  readonly #tables: MemoryTables;
  readonly #makers: MemoryMakers;
  readonly #undo: (() => void)[] = [];
  readonly #put: { readonly entity: EntityPlan; readonly row: MemoryRow }[] = [];
  readonly #removed: { readonly entity: EntityPlan; readonly row: MemoryRow }[] = [];

  constructor(tables: MemoryTables, makers: MemoryMakers) {
    this.#tables = tables;
    this.#makers = makers;
  }

  /** Does the work and checks that rows fit each other; where it fails, nothing has changed. */
  run<T>(work: (change: this) => T): T {
    try {
      const result = work(this);
      for (const { entity, row } of this.#put) this.#checkStored(entity, row);
      for (const { entity, row } of this.#removed) this.#checkNotNeeded(entity, row);
      return result;
    } catch (error) {
      for (const undo of this.#undo.reverse()) undo();
      throw error;
    }
  }

  create(name: string, change: Values): MemoryRow {
    const { entity } = this.#tables.linked(name);
    const own = { ...change, ...this.#rowsBefore(name, change) };
    const values = Object.fromEntries(
      entity.columns.map((column) => [column.name, this.#valueOf(entity, column, own[column.name])]),
    );
    const row = this.#tables.row(name, values);
    this.#store(entity, row);
    this.#rowsAfter(name, row, change);
    return row;
  }

  amend(name: string, row: MemoryRow, change: Values): void {
    const { entity } = this.#tables.linked(name);
    const set = { ...change, ...this.#rowsBefore(name, change, row) };
    const values = Object.fromEntries(
      entity.columns.map(({ name: column }) => [column, column in set ? set[column] : row[column]]),
    );
    const next = this.#tables.row(name, values);
    this.remove(entity, row);
    this.#store(entity, next);
    this.#rowsAfter(name, next, change, row);
  }

  remove(entity: EntityPlan, row: MemoryRow): void {
    this.#undo.push(this.#tables.table(entity.name).delete(row));
    this.#removed.push({ entity, row });
  }

  #store(entity: EntityPlan, row: MemoryRow): void {
    const table = this.#tables.table(entity.name);
    if (table.get(table.keyText(row)) !== undefined) {
      throw new ConflictError('duplicate', entity.name, entity.key);
    }
    this.#undo.push(table.put(row));
    this.#put.push({ entity, row });
  }

  /** Rows of to-one links are there first: this row holds their key. */
  #rowsBefore(name: string, change: Values, row?: MemoryRow): Values {
    const set: Record<string, unknown> = {};
    for (const link of this.#tables.linked(name).links.values()) {
      if (link.kind !== 'toOne' || !(link.name in change)) continue;
      const inner = change[link.name] as Values;
      const [known] = row === undefined ? [] : this.#tables.behind(link, row);
      if (known !== undefined) this.amend(link.target.name, known, inner);
      else Object.assign(set, pick(link.to, this.create(link.target.name, inner), link.from));
    }
    return set;
  }

  /** Rows of to-many links come after: they hold this row's key, or one in the middle does. */
  #rowsAfter(name: string, row: MemoryRow, change: Values, before?: MemoryRow): void {
    for (const link of this.#tables.linked(name).links.values()) {
      if (link.kind !== 'toMany' || !(link.name in change)) continue;
      if (before !== undefined) this.#clear(link, before);
      for (const inner of change[link.name] as readonly Values[]) this.#append(link, row, inner);
    }
  }

  #clear(link: LinkPlan, row: MemoryRow): void {
    const entity = link.through?.entity ?? link.target;
    const names = link.through?.from ?? link.to;
    const old = this.#tables.table(entity.name).having(names, joinText(row, link.from));
    for (const child of [...old]) this.remove(entity, child);
  }

  #append(link: LinkPlan, row: MemoryRow, inner: Values): void {
    const { target, through, from, to } = link;
    if (through === null) {
      this.create(target.name, { ...inner, ...pick(from, row, to) });
      return;
    }
    // Only the key of a row: that row is meant, no new one.
    const isKeyOnly = Object.keys(inner).every((name) => target.key.includes(name));
    const other = isKeyOnly ? inner : this.create(target.name, inner);
    this.create(through.entity.name, { ...pick(from, row, through.from), ...pick(to, other, through.to) });
  }

  #valueOf(entity: EntityPlan, column: ColumnPlan, value: unknown): unknown {
    if (value !== undefined) return value;
    const made = column.generated ? this.#made(entity, column) : null;
    if (made === null && !column.nullable) throw new ConflictError('missing', entity.name, [column.name]);
    return made;
  }

  /** What a database would make: the next number, a new UUID, the moment. */
  #made(entity: EntityPlan, column: ColumnPlan): unknown {
    switch (valueKind(column.type).made) {
      case 'number': {
        const next = this.#tables.table(entity.name).next(column.name);
        return column.type.kind === 'bigint' ? next : Number(next);
      }
      case 'uuid':
        return this.#makers.uuid();
      case 'moment':
        return this.#makers.now();
      case 'day':
        return this.#makers.now().toISOString().slice(0, 10);
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
      if (link.kind !== 'toOne' || joinText(row, link.from) === null) continue;
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
        if (link.kind !== 'toOne' || link.target.name !== entity.name) continue;
        const needing = this.#tables.table(other.name).having(link.from, joinText(row, link.to));
        if (needing.length > 0) throw new ConflictError('reference', entity.name, entity.key);
      }
    }
  }
}
