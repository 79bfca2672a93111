import type { LoadPlan } from 'gribo';
import { type ColumnPlan, type LoadLink, wholeOrder } from 'gribo/kit';
import { sql } from 'kysely';
import type { PackedForm, Piece, SqlColumn } from '../dialects/dialect.js';
import { columnsOf, joinMiddle } from './joined.js';
import { orderPiece } from './order.js';
import { refOf } from './pieces.js';
import { type RowNode, Selecting, type SelectSettings } from './selecting.js';

/** A statement but for what changes from request to request, made once for a plan. */
export interface PreparedRows {
  readonly alias: string;
  readonly node: RowNode;
  /** How many outputs there are. */
  readonly width: number;
  /** What is selected, and from where: all before the conditions. */
  readonly head: Piece;
  readonly from: Piece;
}

/** The statement for a to-many link; its conditions start with the keys of the owners. */
export interface PreparedMany extends PreparedRows {
  /** The table that holds the owners' keys, and the columns that do. */
  readonly middle: string;
  readonly holders: readonly SqlColumn[];
  /** The owner's key in a flat row, where the row itself does not hold it. */
  readonly keys: ReturnType<Selecting['column']>[] | null;
  /** All after the conditions. */
  readonly tail: Piece;
}

/** Statements that have been made, by what they load. */
export type PreparedCache = WeakMap<LoadPlan | LoadLink, PreparedRows | PreparedMany>;

export interface PrepareSettings extends SelectSettings {
  /** How all that is selected of a row is put into one line; null: it is not. */
  readonly packs: PackedForm | null;
  /** Makes a piece that has no parameters into text, so that it is not put together again. */
  asText(piece: Piece): Piece;
}

/** The name of the line that holds all that is selected of a row. */
export const LINE = 'line';

const lineOf = (packs: PackedForm, { all }: Selecting): Piece =>
  sql`select ${packs.line(all)} as ${sql.id(LINE)}`;

export const prepareRows = (settings: PrepareSettings, plan: LoadPlan): PreparedRows => {
  const selecting = new Selecting(settings);
  const alias = selecting.alias();
  const node = selecting.node(plan, alias);
  const { packs } = settings;
  const head = packs === null ? sql`select ${sql.join(selecting.selected)}` : lineOf(packs, selecting);
  const from = sql`\nfrom ${sql.table(plan.table)} as ${sql.id(alias)}${sql.join(selecting.joins, sql``)}`;
  const width = selecting.all.length;
  return { alias, node, width, head: settings.asText(head), from: settings.asText(from) };
};

/** The columns that hold the owner's key: the target's own, or those of the entity in the middle. */
const holdersOf = ({ link }: LoadLink): readonly ColumnPlan[] =>
  link.through === null ? columnsOf(link.target, link.to) : columnsOf(link.through.entity, link.through.from);

export const prepareMany = (settings: PrepareSettings, loading: LoadLink): PreparedMany => {
  const { link, plan, selection } = loading;
  const selecting = new Selecting(settings);
  const alias = selecting.alias();
  const middle = link.through === null ? alias : selecting.alias();
  const plans = holdersOf(loading);
  const holder = link.through?.entity ?? link.target;
  const holders = plans.map((column) => settings.database.column(holder, column));
  const keys = link.through === null ? null : plans.map((column) => selecting.column(middle, holder, column));
  const node = selecting.node(plan, alias);
  const order = orderPiece(settings.database, link.target, alias, wholeOrder(link.target, selection.sort));
  const from = sql`\nfrom ${sql.table(plan.table)} as ${sql.id(alias)}${joinMiddle(link, alias, middle)}${sql.join(selecting.joins, sql``)}`;
  const common = { alias, middle, holders, keys, node, width: selecting.all.length };
  if (selection.limit === null) {
    const head = settings.asText(sql`select ${sql.join(selecting.selected)}`);
    return { ...common, head, from: settings.asText(from), tail: settings.asText(sql`\norder by ${order}`) };
  }
  // The first rows of each owner, in their order.
  const owner = sql.join(holders.map(({ stored }) => refOf(middle, stored)));
  const place = sql`row_number() over (partition by ${owner} order by ${order}) as ${sql.id('place')}`;
  const head = sql`select * from (select ${sql.join([...selecting.selected, place])}`;
  const tail = sql`) as ranked\nwhere ${sql.id('place')} <= ${sql.lit(selection.limit)}\norder by ${sql.id('place')}`;
  return { ...common, head: settings.asText(head), from: settings.asText(from), tail: settings.asText(tail) };
};
