import type { LoadPlan } from 'gribo';
import {
  type EntityPlan,
  figures,
  type LinkPlan,
  type LoadColumn,
  type LoadFigure,
  type LoadLink,
  wholeOrder,
} from 'gribo/kit';
import { sql } from 'kysely';
import type { Database } from '../dialects/database.js';
import type { Piece, Selected, SqlColumn } from '../dialects/dialect.js';
import { formOf } from '../kinds/kinds.js';
import { seenPieces } from './conditions.js';
import { type Behind, columnsOf, joinedOn, tablesBehind } from './joined.js';
import { orderPiece } from './order.js';
import { allOf, refOf } from './pieces.js';

/** A row as it is put together. */
export type MadeRow = Record<PropertyKey, unknown>;

/** A flat row: values under the names of the outputs, as the driver gives it, or by their places. */
export type FlatRow = Readonly<Record<string, unknown>>;

interface Output {
  readonly name: string;
  readonly as: string;
  readonly column: SqlColumn;
  readonly decode: ((value: unknown) => unknown) | null;
}

/** A figure about the rows behind a link, made of what is in the flat row. */
interface FigureOutput {
  readonly name: string;
  read(flat: FlatRow): unknown;
}

/** How rows behind to-many links are loaded: all in one statement, or one statement for each link. */
export type Strategy = 'single' | 'batched';

/** What selecting needs to know. */
export interface SelectSettings {
  readonly database: Database;
  readonly strategy: Strategy;
  /** Whether a flat row has its values by their places, and not under names. */
  readonly byPlace: boolean;
  entityOf(name: string): EntityPlan;
}

/** What is made of a flat row for one entity: its own values, and the row of each to-one link in it. */
export interface RowNode {
  readonly outputs: readonly Output[];
  readonly figured: readonly FigureOutput[];
  readonly ones: readonly { readonly link: string; readonly node: RowNode }[];
  /** Links whose rows are in the flat row, as JSON: a list of lists of values. */
  readonly lists: readonly { readonly link: string; readonly as: string; readonly node: RowNode }[];
  /** Links whose rows are loaded by statements of their own. */
  readonly manys: readonly LoadLink[];
  /** The output that is null where there is no such row. */
  readonly present: string;
}

/** The rows that have been made, by the to-many links that are still to be loaded for them. */
export type Owners = Map<LoadLink, MadeRow[]>;

/** The most arguments that a function of PostgreSQL takes. */
const MOST_ARGUMENTS = 100;

const fromBase64 = (value: unknown): unknown => Buffer.from(String(value), 'base64');

/** Gathers what one statement selects: a plan's columns, those of its to-one links, and figures. */
export class Selecting {
  readonly #selected: Selected[] = [];
  readonly joins: Piece[] = [];
  readonly #settings: SelectSettings;
  /** The select around this one, whose rows hold this one's as JSON; null for a statement itself. */
  readonly #around: Selecting | null;
  /** What a line of it starts with: a statement within one is indented. */
  readonly #line: string;
  #aliases = 0;

  constructor(settings: SelectSettings, around: Selecting | null = null) {
    this.#settings = settings;
    this.#around = around;
    this.#line = around === null ? '\n' : `${around.#line}    `;
  }

  /** A piece on a line of its own. */
  #onLine(piece: Piece): Piece {
    return sql`${sql.raw(this.#line)}${piece}`;
  }

  alias(): string {
    return this.#around === null ? `t${this.#aliases++}` : this.#around.alias();
  }

  /** All that is selected. */
  get all(): readonly Selected[] {
    return this.#selected;
  }

  /** What is selected, under its names. */
  get selected(): readonly Piece[] {
    return this.#selected.map(({ piece }, i) => sql`${piece} as ${sql.id(this.#nameOf(i))}`);
  }

  /** Rows in JSON are lists, so they have values by their places too. */
  #nameOf(place: number): string {
    return this.#around === null && !this.#settings.byPlace ? `c${place}` : String(place);
  }

  /** Selects an expression and gives the name it has in the flat row. */
  output(piece: Piece, column: SqlColumn | null = null): string {
    return this.#nameOf(this.#selected.push({ piece, column }) - 1);
  }

  /** Selects a column. */
  column(alias: string, entity: Pick<EntityPlan, 'table'>, plan: LoadColumn): Omit<Output, 'name'> {
    const { database } = this.#settings;
    const { dialect } = database;
    const column = database.column(entity, plan);
    const ref = refOf(alias, column.stored);
    if (this.#around !== null && formOf(column.type) === 'bytes') {
      return { as: this.output(sql`encode(${ref}, 'base64')`), column, decode: fromBase64 };
    }
    return { as: this.output(dialect.selected(column, ref), column), column, decode: dialect.decode(column) };
  }

  node(plan: LoadPlan, alias: string): RowNode {
    const outputs = plan.columns.map((column) => ({
      name: column.name,
      ...this.column(alias, plan, column),
    }));
    const figured = plan.figures.map((loading) => ({
      name: loading.name,
      ...this.#figure(loading, plan, alias),
    }));
    const ones: { link: string; node: RowNode }[] = [];
    const manys: LoadLink[] = [];
    const lists: { link: string; as: string; node: RowNode }[] = [];
    for (const loading of plan.links) {
      const link = loading.link.name;
      if (loading.link.kind === 'toOne') ones.push({ link, node: this.#one(loading, plan, alias) });
      else if (this.#settings.strategy === 'single')
        lists.push({ link, ...this.#list(loading, plan, alias) });
      else manys.push(loading);
    }
    const present = outputs.find(({ name }) => plan.key.includes(name))?.as ?? outputs[0]?.as ?? '';
    return { outputs, figured, ones, lists, manys, present };
  }

  /** The rows behind a to-many link as a JSON list of lists, in the same statement. */
  #list(loading: LoadLink, owner: LoadPlan, alias: string): { as: string; node: RowNode } {
    const { link, plan, selection } = loading;
    const { database } = this.#settings;
    const inner = new Selecting(this.#settings, this);
    const target = inner.alias();
    const { from, on, middle } = this.#behind(link, owner, alias, target);
    const node = inner.node(plan, target);
    const where = allOf([...on, ...seenPieces(database, loading, target, middle)]);
    const order = orderPiece(database, link.target, target, wholeOrder(link.target, selection.sort));
    const limit = selection.limit === null ? sql`` : sql` limit ${sql.lit(selection.limit)}`;
    const parts = [
      inner.#onLine(sql`from (select ${inner.#asJson()} as j`),
      inner.#onLine(sql`from ${from}`),
      ...inner.joins,
      inner.#onLine(sql`where ${where}`),
      inner.#onLine(sql`order by ${order}${limit}) as q`),
    ];
    return { as: this.output(sql`(select coalesce(json_agg(q.j), '[]')${sql.join(parts, sql``)})`), node };
  }

  /** What is selected as one JSON list. */
  #asJson(): Piece {
    const selected = this.#selected.map(({ piece }) => piece);
    if (selected.length <= MOST_ARGUMENTS) return sql`json_build_array(${sql.join(selected)})`;
    const parts = Array.from({ length: Math.ceil(selected.length / MOST_ARGUMENTS) }, (_, i) => {
      const part = selected.slice(i * MOST_ARGUMENTS, (i + 1) * MOST_ARGUMENTS);
      return sql`json_build_array(${sql.join(part)})::jsonb`;
    });
    return sql.join(parts, sql` || `);
  }

  #one(loading: LoadLink, owner: LoadPlan, alias: string): RowNode {
    const { link, plan } = loading;
    const other = this.alias();
    const from = columnsOf(this.#settings.entityOf(owner.entity), link.from);
    const on = joinedOn([other, columnsOf(link.target, link.to)], [alias, from]);
    const all = [...on, ...seenPieces(this.#settings.database, loading, other, other)];
    this.joins.push(
      this.#onLine(
        sql`left join ${sql.table(plan.table)} as ${sql.id(other)} on ${sql.join(all, sql` and `)}`,
      ),
    );
    return this.node(plan, other);
  }

  /** A figure is made in the database, without another statement. */
  #figure(loading: LoadFigure, owner: LoadPlan, alias: string): Omit<FigureOutput, 'name'> {
    const { of, selection, link } = loading;
    const { database } = this.#settings;
    if (of === null) {
      const { limit } = selection;
      // Not every database lets a table inside a query look at a row outside of it: so all are counted, up to the limit.
      const many =
        limit === null
          ? sql`count(*)`
          : sql`case when count(*) > ${sql.lit(limit)} then ${sql.lit(limit)} else count(*) end`;
      const as = this.output(this.#over(loading, owner, alias, () => many));
      return { read: (flat) => Number(flat[as]) };
    }
    const column = database.column(link.target, of.column);
    const made = database.dialect.figures(column, of.how);
    const outputs = made.parts.map((part) =>
      this.output(this.#over(loading, owner, alias, (target) => part(refOf(target, column.stored)))),
    );
    return { read: (flat) => made.read(outputs.map((as) => flat[as])) };
  }

  /** A value over the rows behind a to-many link. */
  #over(loading: LoadFigure, owner: LoadPlan, alias: string, value: (target: string) => Piece): Piece {
    const target = this.alias();
    const { from, on, middle } = this.#behind(loading.link, owner, alias, target);
    const conditions = allOf([...on, ...seenPieces(this.#settings.database, loading, target, middle)]);
    return sql`(select ${value(target)} from ${from} where ${conditions})`;
  }

  /** The rows behind a to-many link of the row under an alias. */
  #behind(
    link: LinkPlan,
    owner: LoadPlan,
    alias: string,
    target: string,
  ): Behind & { readonly middle: string } {
    const own = columnsOf(this.#settings.entityOf(owner.entity), link.from);
    const middle = link.through === null ? target : this.alias();
    return { ...tablesBehind(link, [alias, own], target, middle), middle };
  }
}

/** Makes a row of a flat one, with the rows of its to-one links; links that are loaded later start empty. */
export const makeRow = (node: RowNode, flat: FlatRow, owners: Owners): MadeRow => {
  const row: MadeRow = {};
  for (const { name, as, decode } of node.outputs) {
    const value = flat[as];
    row[name] = value === null || decode === null ? value : decode(value);
  }
  for (const { link, node: inner } of node.ones) {
    row[link] = flat[inner.present] === null ? null : makeRow(inner, flat, owners);
  }
  for (const { link, as, node: inner } of node.lists) {
    row[link] = (flat[as] as readonly FlatRow[]).map((values) => makeRow(inner, values, owners));
  }
  for (const loading of node.manys) {
    row[loading.link.name] = [];
    const known = owners.get(loading);
    if (known === undefined) owners.set(loading, [row]);
    else known.push(row);
  }
  if (node.figured.length > 0) {
    row[figures] = Object.fromEntries(node.figured.map(({ name, read }) => [name, read(flat)]));
  }
  return row;
};
