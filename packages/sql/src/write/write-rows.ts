import {
  ConflictError,
  type EntityPlan,
  type Key,
  type KeyValue,
  type LinkedEntity,
  type LinkPlan,
} from 'gribo';
import { type RawBuilder, sql } from 'kysely';
import type { Piece, SqlDialect, Violation } from '../dialects/dialect.js';
import type { FlatRow } from '../load/selecting.js';

type Values = Readonly<Record<string, unknown>>;

/** What running a statement that changes rows gives. */
export interface Done {
  readonly rows: readonly FlatRow[];
  /** The number that the database made for the row, where it does not return rows. */
  readonly insertId: bigint | undefined;
}

/** What writing needs to know; all of its statements are run in one transaction. */
export interface Writing {
  readonly dialect: SqlDialect;
  readonly execute: (statement: RawBuilder<FlatRow>) => Promise<Done>;
  linked(entity: string): LinkedEntity;
}

const pick = (names: readonly string[], from: Values, as: readonly string[]): Values =>
  Object.fromEntries(names.map((name, i) => [as[i] ?? name, from[name]]));

/** Changes rows, with those of nested inputs. */
export class RowWriting {
  readonly #writing: Writing;

  constructor(writing: Writing) {
    this.#writing = writing;
  }

  /** @returns the values of the new row that are known: what was set, and its key */
  async create(name: string, change: Values): Promise<Values> {
    const { entity } = this.#writing.linked(name);
    const before = await this.#rowsBefore(name, change);
    const own = this.#ownValues(entity, { ...change, ...before });
    const row = await this.#insert(entity, own);
    await this.#rowsAfter(name, row, change, false);
    return row;
  }

  /** Changes a row of this key; `row` has the columns that its links start from. */
  async amend(name: string, row: Values, change: Values): Promise<void> {
    const { entity } = this.#writing.linked(name);
    const before = await this.#rowsBefore(name, change, row);
    const own = this.#ownValues(entity, { ...change, ...before });
    if (Object.keys(own).length > 0) await this.#update(entity, row, own);
    await this.#rowsAfter(name, { ...row, ...own }, change, true);
  }

  async remove(entity: EntityPlan, row: Values): Promise<void> {
    await this.#run(entity, sql`delete from ${sql.table(entity.table)} where ${this.#keyIs(entity, row)}`);
  }

  /** A row by its key, with the columns that its links start from, kept from others until the end. */
  async locked(entity: EntityPlan, key: Key, conditions: readonly Piece[]): Promise<Values | null> {
    const { dialect } = this.#writing;
    const needed = new Set([...entity.key, ...this.#startsOf(entity)]);
    const selected = entity.columns
      .filter(({ name }) => needed.has(name))
      .map((column, i) => ({ column, as: `c${i}` }));
    const pieces = selected.map(
      ({ column, as }) => sql`${dialect.selected(column, sql.id('t0', column.stored))} as ${sql.id(as)}`,
    );
    const named = Object.fromEntries(entity.key.map((name, i) => [name, key[i]]));
    const where = sql.join([this.#keyIs(entity, named, 't0'), ...conditions], sql` and `);
    const { rows } = await this.#run(
      entity,
      sql`select ${sql.join(pieces)} from ${sql.table(entity.table)} as t0 where ${where}${dialect.lock}`,
    );
    const [flat] = rows;
    if (flat === undefined) return null;
    return Object.fromEntries(
      selected.map(({ column, as }) => {
        const decode = dialect.decode(column.type);
        const value = flat[as];
        return [column.name, value === null || decode === null ? value : decode(value)];
      }),
    );
  }

  /** The columns that the links of an entity start from. */
  #startsOf({ name }: EntityPlan): readonly string[] {
    return [...this.#writing.linked(name).links.values()].flatMap(({ from }) => from);
  }

  #ownValues(entity: EntityPlan, change: Values): Values {
    return Object.fromEntries(
      entity.columns.flatMap(({ name }) => (change[name] === undefined ? [] : [[name, change[name]]])),
    );
  }

  async #rowsBefore(name: string, change: Values, row?: Values): Promise<Values> {
    const set: Record<string, unknown> = {};
    for (const link of this.#writing.linked(name).links.values()) {
      if (link.kind !== 'toOne' || !(link.name in change)) continue;
      const inner = change[link.name] as Values;
      const key = row === undefined ? [] : link.from.map((from) => row[from] as KeyValue | null);
      const known =
        key.length === 0 || key.includes(null) ? null : await this.locked(link.target, key as KeyValue[], []);
      if (known !== null) await this.amend(link.target.name, known, inner);
      else Object.assign(set, pick(link.to, await this.create(link.target.name, inner), link.from));
    }
    return set;
  }

  async #rowsAfter(name: string, row: Values, change: Values, isThere: boolean): Promise<void> {
    for (const link of this.#writing.linked(name).links.values()) {
      if (link.kind !== 'toMany' || !(link.name in change)) continue;
      if (isThere) await this.#clear(link, row);
      for (const inner of change[link.name] as readonly Values[]) await this.#append(link, row, inner);
    }
  }

  async #clear({ target, through, from, to }: LinkPlan, row: Values): Promise<void> {
    const entity = through?.entity ?? target;
    const names = through?.from ?? to;
    await this.#run(
      entity,
      sql`delete from ${sql.table(entity.table)} where ${this.#valuesAre(entity, pick(from, row, names))}`,
    );
  }

  async #append({ target, through, from, to }: LinkPlan, row: Values, inner: Values): Promise<void> {
    if (through === null) {
      await this.create(target.name, { ...inner, ...pick(from, row, to) });
      return;
    }
    // Only the key of a row: that row is meant, no new one.
    const isKeyOnly = Object.keys(inner).every((name) => target.key.includes(name));
    const other = isKeyOnly ? inner : await this.create(target.name, inner);
    await this.create(through.entity.name, {
      ...pick(from, row, through.from),
      ...pick(to, other, through.to),
    });
  }

  async #insert(entity: EntityPlan, own: Values): Promise<Values> {
    const { dialect } = this.#writing;
    const made = this.#madeHere(entity, own);
    const columns = entity.columns.filter(({ name }) => name in made);
    const names = sql.join(columns.map(({ stored }) => sql.id(stored)));
    const values = sql.join(columns.map(({ name, type }) => sql`${dialect.encode(type, made[name])}`));
    const into = sql`insert into ${sql.table(entity.table)}`;
    const row =
      columns.length > 0
        ? sql`${into} (${names}) values (${values})`
        : dialect.name === 'mysql'
          ? sql`${into} () values ()`
          : sql`${into} default values`;
    const key = entity.columns.filter((column) => column.key);
    const isKnown = key.every(({ name }) => name in made);
    if (isKnown || !dialect.returns) {
      const { insertId } = await this.#run(entity, row, made);
      const [only] = key;
      if (isKnown || only === undefined) return made;
      return { ...made, [only.name]: only.type.kind === 'bigint' ? insertId : Number(insertId) };
    }
    const returned = key.map(
      (column, i) => sql`${dialect.selected(column, sql.id(column.stored))} as ${sql.id(`c${i}`)}`,
    );
    const { rows } = await this.#run(entity, sql`${row} returning ${sql.join(returned)}`, made);
    const found = key.map((column, i) => {
      const value = rows[0]?.[`c${i}`];
      return [column.name, dialect.decode(column.type)?.(value) ?? value] as const;
    });
    return { ...made, ...Object.fromEntries(found) };
  }

  /** A database that does not return rows cannot tell which UUID it made. */
  #madeHere({ columns }: EntityPlan, own: Values): Values {
    if (this.#writing.dialect.returns) return own;
    const missing = columns.filter(
      ({ key, generated, type, name }) => key && generated && type.kind === 'uuid' && !(name in own),
    );
    return { ...own, ...Object.fromEntries(missing.map(({ name }) => [name, crypto.randomUUID()])) };
  }

  async #update(entity: EntityPlan, row: Values, own: Values): Promise<void> {
    const { dialect } = this.#writing;
    const sets = entity.columns.flatMap(({ name, stored, type }) =>
      name in own ? [sql`${sql.id(stored)} = ${dialect.encode(type, own[name])}`] : [],
    );
    await this.#run(
      entity,
      sql`update ${sql.table(entity.table)} set ${sql.join(sets)} where ${this.#keyIs(entity, row)}`,
      own,
    );
  }

  #keyIs(entity: EntityPlan, row: Values, alias?: string): Piece {
    return this.#valuesAre(entity, pick(entity.key, row, entity.key), alias);
  }

  #valuesAre(entity: EntityPlan, values: Values, alias?: string): Piece {
    const { dialect } = this.#writing;
    const pieces = entity.columns
      .filter(({ name }) => name in values)
      .map((column) =>
        dialect.equals(
          column,
          alias === undefined ? sql.id(column.stored) : sql.id(alias, column.stored),
          values[column.name],
        ),
      );
    return sql.join(pieces, sql` and `);
  }

  /** Where a database does not say which reference leads nowhere, each of them is looked at. */
  async #brokenReference(entity: EntityPlan, own: Values): Promise<readonly string[]> {
    for (const link of this.#writing.linked(entity.name).links.values()) {
      if (link.kind !== 'toOne' || link.from.some((name) => own[name] === null || own[name] === undefined))
        continue;
      const there = this.#valuesAre(link.target, pick(link.from, own, link.to));
      const { rows } = await this.#writing.execute(
        sql<FlatRow>`select 1 as there from ${sql.table(link.target.table)} where ${there}`,
      );
      if (rows.length === 0) return link.from;
    }
    return [];
  }

  async #run(entity: EntityPlan, statement: Piece, own: Values | null = null): Promise<Done> {
    try {
      return await this.#writing.execute(statement as RawBuilder<FlatRow>);
    } catch (error) {
      const violation = this.#writing.dialect.violation(error);
      if (violation === null) throw error;
      const isUnnamed = violation.reason === 'reference' && violation.columns.length === 0 && own !== null;
      if (!isUnnamed) throw conflictOf(entity, violation, error);
      throw new ConflictError('reference', entity.name, await this.#brokenReference(entity, own), {
        cause: error,
      });
    }
  }
}

/** The conflict for a violation: by properties, never in the words of the database. */
const conflictOf = (entity: EntityPlan, { reason, columns }: Violation, cause: unknown): ConflictError => {
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
