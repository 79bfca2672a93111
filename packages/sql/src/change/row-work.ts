import { ConflictError } from 'gribo';
import {
  type EntityPlan,
  type LinkedEntity,
  type StoreCondition,
  unknownEntity,
  type Values,
  type Work,
  type WorkRows,
} from 'gribo/kit';
import { sql } from 'kysely';
import type { Piece } from '../dialects/dialect.js';
import { StatementError, type Violation } from '../errors/statement-error.js';
import { conditionPiece } from '../load/conditions.js';
import { amongPiece } from '../load/pieces.js';
import type { Changing } from './changing.js';
import { InsertRows } from './insert-rows.js';

/** Does the work of change plans with statements. */
export class RowWork {
  readonly #changing: Changing;
  /** What must be true of the row that a change is about. */
  readonly #conditions: readonly Piece[];
  /** Given the key of that row, throws where it must not be changed. */
  readonly #check: () => Promise<void>;

  constructor(changing: Changing, conditions: readonly Piece[], check: () => Promise<void>) {
    this.#changing = changing;
    this.#conditions = conditions;
    this.#check = check;
  }

  async do(work: Work): Promise<WorkRows> {
    const { entity } = this.#linked(work.entity);
    switch (work.kind) {
      case 'find': {
        if (!this.#changing.capacities.canBe(work.entity, work.by)) return [];
        const row = await this.#find(entity, work.by, work.needs, work.isRoot ? this.#conditions : []);
        if (row !== null && work.isRoot) await this.#check();
        return row === null ? [] : [row];
      }
      case 'insert':
        return this.#fitting(entity, work.rows, () =>
          new InsertRows(this.#changing, entity, (by, needs) => this.#find(entity, by, needs, [])).insert(
            work.rows,
            work.needs,
          ),
        );
      case 'update':
        await this.#update(entity, work.row, work.set);
        return [];
      case 'remove':
        await this.#remove(entity, work.by, work.where);
        return [];
      case 'reference':
        return this.#there(entity, work);
      case 'test':
        return this.#broken(entity, work);
      default:
        return work satisfies never;
    }
  }

  async #remove(entity: EntityPlan, by: Values, where: readonly StoreCondition[]): Promise<void> {
    const table = sql.table(entity.table);
    const asked = this.#changing.capacities.askable(entity.name, where);
    if (asked === null) return;
    const those =
      asked.where.length === 0 ? this.#valuesAre(entity, by) : await this.#those(entity, by, asked.where);
    await this.#fitting(entity, [], () => this.#changing.execute(sql`delete from ${table} where ${those}`));
  }

  /** Rows with these values that satisfy conditions, by their keys: not every database looks at a table that it deletes from. */
  async #those(entity: EntityPlan, by: Values, where: readonly StoreCondition[]): Promise<Piece> {
    const { database } = this.#changing;
    const { dialect } = database;
    const key = entity.columns
      .filter((column) => column.key)
      .map((column) => database.column(entity, column));
    const selected = key.map((column, i) => {
      return sql`${dialect.selected(column, sql.id('t0', column.stored))} as ${sql.id(`c${i}`)}`;
    });
    const conditions = where.map((part) => conditionPiece(database, entity, 't0', part));
    const pieces = sql.join([this.#valuesAre(entity, by, 't0'), ...conditions], sql` and `);
    const { rows } = await this.#changing.execute(
      sql`select ${sql.join(selected)} from ${sql.table(entity.table)} as t0 where ${pieces}${dialect.lock}`,
    );
    const values = rows.map((row) =>
      key.map((column, i) => dialect.decode(column)?.(row[`c${i}`]) ?? row[`c${i}`]),
    );
    return amongPiece(dialect, null, key, values);
  }

  /**
   * Those of these rows that there are and that satisfy the conditions. They are counted at once; only where that does not say it,
   * because one is missing or two texts mean one row, they are looked for one by one.
   */
  async #there(entity: EntityPlan, work: Extract<Work, { kind: 'reference' }>): Promise<WorkRows> {
    const { database, capacities } = this.#changing;
    const asked = capacities.askable(entity.name, work.conditions);
    const those = work.among.filter((values) => capacities.canBe(entity.name, values));
    if (asked === null || those.length === 0) return [];
    const plans = entity.columns.filter(({ name }) => work.columns.includes(name));
    const stored = plans.map((column) => database.column(entity, column));
    const conditions = asked.where.map((condition) => conditionPiece(database, entity, 't0', condition));
    const count = async (some: readonly Values[]): Promise<number> => {
      const values = some.map((row) => plans.map(({ name }) => row[name]));
      const among = amongPiece(database.dialect, 't0', stored, values);
      const where = sql.join([among, ...conditions], sql` and `);
      const { rows } = await this.#changing.execute(
        sql`select count(*) as many from ${sql.table(entity.table)} as t0 where ${where}`,
      );
      return Number(rows[0]?.['many'] ?? 0);
    };
    if ((await count(those)) === those.length) return those;
    if (those.length === 1) return [];
    const found: Values[] = [];
    for (const values of those) {
      if ((await count([values])) === 0) break;
      found.push(values);
    }
    return found;
  }

  /** A row among these that does not satisfy the conditions, if there is one. */
  async #broken(entity: EntityPlan, work: Extract<Work, { kind: 'test' }>): Promise<WorkRows> {
    const { database, capacities } = this.#changing;
    const { columns, among, where, conditions } = work;
    const asked = capacities.askable(entity.name, where);
    if (asked === null) return [];
    const tested = capacities.askable(entity.name, conditions);
    const plans = entity.columns.filter(({ name }) => columns.includes(name));
    const stored = plans.map((column) => database.column(entity, column));
    const values = among.map((row) => plans.map(({ name }) => row[name]));
    const pieceOf = (condition: StoreCondition): Piece => conditionPiece(database, entity, 't0', condition);
    const broken: StoreCondition[] =
      tested === null ? [] : [{ kind: 'not', of: { kind: 'all', of: tested.where } }];
    const pieces = [
      amongPiece(database.dialect, 't0', stored, values),
      ...[...asked.where, ...broken].map(pieceOf),
    ];
    const { rows } = await this.#changing.execute(
      sql`select 1 as broken from ${sql.table(entity.table)} as t0 where ${sql.join(pieces, sql` and `)} limit 1`,
    );
    return rows;
  }

  #linked(name: string): LinkedEntity {
    const linked = this.#changing.entities.get(name);
    if (linked === undefined) throw unknownEntity(name, this.#changing.entities.keys());
    return linked;
  }

  /** A row, with the columns that are needed of it, kept from others until the end. */
  async #find(
    entity: EntityPlan,
    by: Values,
    needs: readonly string[],
    conditions: readonly Piece[],
  ): Promise<Values | null> {
    const { database } = this.#changing;
    const { dialect } = database;
    const wanted = new Set([...entity.key, ...needs]);
    const selected = entity.columns
      .filter(({ name }) => wanted.has(name))
      .map((column, i) => ({ name: column.name, column: database.column(entity, column), as: `c${i}` }));
    const pieces = selected.map(
      ({ column, as }) => sql`${dialect.selected(column, sql.id('t0', column.stored))} as ${sql.id(as)}`,
    );
    const where = sql.join([this.#valuesAre(entity, by, 't0'), ...conditions], sql` and `);
    const { rows } = await this.#changing.execute(
      sql`select ${sql.join(pieces)} from ${sql.table(entity.table)} as t0 where ${where}${dialect.lock}`,
    );
    const [flat] = rows;
    if (flat === undefined) return null;
    return Object.fromEntries(
      selected.map(({ name, column, as }) => {
        const decode = dialect.decode(column);
        const value = flat[as];
        return [name, value === null || decode === null ? value : decode(value)];
      }),
    );
  }

  async #update(entity: EntityPlan, row: Values, set: Values): Promise<void> {
    const { database } = this.#changing;
    const sets = entity.columns.flatMap((plan) => {
      if (!(plan.name in set)) return [];
      const value = database.dialect.encode(database.column(entity, plan), set[plan.name]);
      return [sql`${sql.id(plan.stored)} = ${value}`];
    });
    const key = Object.fromEntries(entity.key.map((name) => [name, row[name]]));
    const table = sql.table(entity.table);
    await this.#fitting(entity, [set], () =>
      this.#changing.execute(
        sql`update ${table} set ${sql.join(sets)} where ${this.#valuesAre(entity, key)}`,
      ),
    );
  }

  #valuesAre(entity: EntityPlan, values: Values, alias?: string): Piece {
    const { database } = this.#changing;
    const pieces = entity.columns
      .filter(({ name }) => name in values)
      .map((column) =>
        database.dialect.equals(
          database.column(entity, column),
          alias === undefined ? sql.id(column.stored) : sql.id(alias, column.stored),
          values[column.name],
        ),
      );
    return sql.join(pieces, sql` and `);
  }

  /** Runs statements; what does not fit is a conflict, by properties. */
  async #fitting<T>(entity: EntityPlan, rows: readonly Values[], run: () => Promise<T>): Promise<T> {
    for (const row of rows) {
      const columns = this.#changing.capacities.overfull(entity.name, row);
      if (columns.length > 0) throw new ConflictError('value', entity.name, columns);
    }
    try {
      return await run();
    } catch (error) {
      if (!(error instanceof StatementError) || error.violation === null) throw error;
      const { violation } = error;
      const isUnnamed = violation.reason === 'reference' && violation.columns.length === 0;
      if (!isUnnamed || rows.length === 0) throw conflictOf(entity, violation, error);
      const columns = await this.#brokenReference(entity, rows);
      throw new ConflictError('reference', entity.name, columns, { cause: error });
    }
  }

  /** Where a database does not say which reference leads nowhere, each of them is looked at. */
  async #brokenReference(entity: EntityPlan, rows: readonly Values[]): Promise<readonly string[]> {
    for (const link of this.#linked(entity.name).links.values()) {
      if (link.reference !== 'here') continue;
      for (const row of rows) {
        if (link.from.some((name) => row[name] === null || row[name] === undefined)) continue;
        const values = Object.fromEntries(link.to.map((name, i) => [name, row[link.from[i] ?? name]]));
        const there = await this.#changing.execute(
          sql`select 1 as there from ${sql.table(link.target.table)} where ${this.#valuesAre(link.target, values)}`,
        );
        if (there.rows.length === 0) return link.from;
      }
    }
    return [];
  }
}

/** The conflict for a violation: by properties, never in the words of the database. */
export const conflictOf = (
  entity: EntityPlan,
  { reason, columns }: Violation,
  cause: unknown,
): ConflictError => {
  const names = columns.flatMap((name) => {
    if (name === 'PRIMARY') return entity.key;
    // Some databases name the index of a duplicate: it is called after its column, as a rule.
    const column =
      entity.columns.find(({ stored }) => stored === name) ??
      entity.columns.find(({ stored, unique }) => unique && name.includes(stored));
    return column === undefined ? [] : [column.name];
  });
  return new ConflictError(reason, entity.name, names, { cause });
};
