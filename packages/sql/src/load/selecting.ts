import { counts, type EntityPlan, type LinkPlan, type LoadCount, type LoadLink, type LoadPlan } from 'gribo';
import { sql } from 'kysely';
import type { Piece, SqlColumn, SqlDialect } from '../dialects/dialect.js';
import { allOf, filterPiece, refOf } from './conditions.js';

/** A row as it is put together. */
export type MadeRow = Record<PropertyKey, unknown>;

/** A flat row, as the driver gives it: values under the names of the outputs. */
export type FlatRow = Readonly<Record<string, unknown>>;

interface Output {
  readonly name: string;
  readonly as: string;
  readonly decode: ((value: unknown) => unknown) | null;
}

/** What is made of a flat row for one entity: its own values, and the row of each to-one link in it. */
export interface RowNode {
  readonly outputs: readonly Output[];
  readonly counted: readonly { readonly name: string; readonly as: string }[];
  readonly ones: readonly { readonly link: string; readonly node: RowNode }[];
  /** Links whose rows are loaded by statements of their own, with the rows they will be put into. */
  readonly manys: readonly Many[];
  /** The output that is null where there is no such row. */
  readonly present: string;
}

/** A to-many link to be loaded, for the rows that have been made so far. */
export interface Many {
  readonly loading: LoadLink;
  readonly owners: MadeRow[];
}

const columnOf = (entity: EntityPlan, name: string): SqlColumn =>
  entity.columns.find((column) => column.name === name) ?? { stored: name, type: { kind: 'json' } };

/** The columns of an entity under their property names. */
export const columnsOf = (entity: EntityPlan, names: readonly string[]): SqlColumn[] =>
  names.map((name) => columnOf(entity, name));

/** Gathers what one statement selects: a plan's columns, those of its to-one links, and counts. */
export class Selecting {
  readonly selected: Piece[] = [];
  readonly joins: Piece[] = [];
  readonly #dialect: SqlDialect;
  readonly #entityOf: (name: string) => EntityPlan;
  #aliases = 0;

  constructor(dialect: SqlDialect, entityOf: (name: string) => EntityPlan) {
    this.#dialect = dialect;
    this.#entityOf = entityOf;
  }

  alias(): string {
    return `t${this.#aliases++}`;
  }

  /** Selects an expression and gives the name it has in the flat row. */
  output(piece: Piece): string {
    const as = `c${this.selected.length}`;
    this.selected.push(sql`${piece} as ${sql.id(as)}`);
    return as;
  }

  column(alias: string, column: SqlColumn): string {
    return this.output(this.#dialect.selected(column, refOf(alias, column.stored)));
  }

  node(plan: LoadPlan, alias: string): RowNode {
    const outputs = plan.columns.map((column) => ({
      name: column.name,
      as: this.column(alias, column),
      decode: this.#dialect.decode(column.type),
    }));
    const counted = plan.counts.map((counting) => ({
      name: counting.name,
      as: this.output(this.#count(counting, plan, alias)),
    }));
    const ones: { link: string; node: RowNode }[] = [];
    const manys: Many[] = [];
    for (const loading of plan.links) {
      if (loading.link.kind === 'toMany') manys.push({ loading, owners: [] });
      else ones.push({ link: loading.link.name, node: this.#one(loading, plan, alias) });
    }
    const present = outputs.find(({ name }) => plan.key.includes(name))?.as ?? outputs[0]?.as ?? '';
    return { outputs, counted, ones, manys, present };
  }

  #one({ link, plan }: LoadLink, owner: LoadPlan, alias: string): RowNode {
    const other = this.alias();
    const from = columnsOf(this.#entityOf(owner.entity), link.from);
    const on = columnsOf(link.target, link.to).map(
      ({ stored }, i) => sql`${refOf(other, stored)} = ${refOf(alias, from[i]?.stored ?? '')}`,
    );
    this.joins.push(
      sql` left join ${sql.table(plan.table)} as ${sql.id(other)} on ${sql.join(on, sql` and `)}`,
    );
    return this.node(plan, other);
  }

  /** Counts in the database, without another statement. */
  #count({ link, selection }: LoadCount, owner: LoadPlan, alias: string): Piece {
    const target = this.alias();
    const { from, on } = this.#behind(link, owner, alias, target);
    const where = selection.where.map((filter) => filterPiece(this.#dialect, target, filter));
    const conditions = allOf([...on, ...where]);
    return selection.limit === null
      ? sql`(select count(*) ${from} where ${conditions})`
      : sql`(select count(*) from (select 1 ${from} where ${conditions} limit ${sql.lit(selection.limit)}) as n)`;
  }

  /** The rows behind a to-many link of the row under an alias. */
  #behind(
    link: LinkPlan,
    owner: LoadPlan,
    alias: string,
    target: string,
  ): { readonly from: Piece; readonly on: readonly Piece[] } {
    const own = columnsOf(this.#entityOf(owner.entity), link.from);
    const { through } = link;
    const table = sql`from ${sql.table(link.target.table)} as ${sql.id(target)}`;
    const to = columnsOf(link.target, link.to);
    const joined = (other: string, columns: readonly SqlColumn[]): Piece[] =>
      columns.map(({ stored }, i) => sql`${refOf(other, stored)} = ${refOf(alias, own[i]?.stored ?? '')}`);
    if (through === null) return { from: table, on: joined(target, to) };
    const middle = this.alias();
    const across = columnsOf(through.entity, through.to).map(
      ({ stored }, i) => sql`${refOf(middle, stored)} = ${refOf(target, to[i]?.stored ?? '')}`,
    );
    const from = sql`${table} inner join ${sql.table(through.entity.table)} as ${sql.id(middle)} on ${sql.join(across, sql` and `)}`;
    return { from, on: joined(middle, columnsOf(through.entity, through.from)) };
  }
}

/** Makes a row of a flat one, with the rows of its to-one links; to-many links start empty. */
export const makeRow = (node: RowNode, flat: FlatRow): MadeRow => {
  const row: MadeRow = {};
  for (const { name, as, decode } of node.outputs) {
    const value = flat[as];
    row[name] = value === null || decode === null ? value : decode(value);
  }
  for (const { link, node: inner } of node.ones) {
    row[link] = flat[inner.present] === null ? null : makeRow(inner, flat);
  }
  for (const { loading, owners } of node.manys) {
    row[loading.link.name] = [];
    owners.push(row);
  }
  if (node.counted.length > 0) {
    row[counts] = Object.fromEntries(node.counted.map(({ name, as }) => [name, Number(flat[as])]));
  }
  return row;
};

/** Every to-many link at a node or behind its to-one links. */
export const manysOf = (node: RowNode): readonly Many[] => [
  ...node.manys,
  ...node.ones.flatMap(({ node: inner }) => manysOf(inner)),
];
