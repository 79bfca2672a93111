import type { ColumnPlan, EntityPlan, LinkPlan } from 'gribo/kit';
import { sql } from 'kysely';
import type { Piece } from '../dialects/dialect.js';
import { refOf } from './pieces.js';

/** The columns of an entity under their property names. */
export const columnsOf = (entity: EntityPlan, names: readonly string[]): readonly ColumnPlan[] =>
  names.flatMap((name) => entity.columns.find((column) => column.name === name) ?? []);

/** Columns of one table and those of another, each with its alias. */
type Side = readonly [alias: string, columns: readonly ColumnPlan[]];

/** That the columns of two tables are equal, pair by pair. */
export const joinedOn = ([alias, columns]: Side, [other, others]: Side): readonly Piece[] =>
  columns.map(({ stored }, i) => sql`${refOf(alias, stored)} = ${refOf(other, others[i]?.stored ?? '')}`);

/** Joins the table in the middle of a many-to-many link to its target; nothing for other links. */
export const joinMiddle = ({ target, to, through }: LinkPlan, alias: string, middle: string): Piece => {
  if (through === null) return sql``;
  const on = joinedOn([middle, columnsOf(through.entity, through.to)], [alias, columnsOf(target, to)]);
  return sql` inner join ${sql.table(through.entity.table)} as ${sql.id(middle)} on ${sql.join(on, sql` and `)}`;
};

/** The tables of the rows behind a to-many link, and what leads to them from the row that has it. */
export interface Behind {
  readonly from: Piece;
  readonly on: readonly Piece[];
}

/**
 * The rows behind a to-many link of the row that stands under an alias.
 *
 * @param link the link
 * @param owner the row that has the link: the alias of its table, and the columns that lead on
 * @param target the alias of the link's target
 * @param middle the alias of the table in the middle, where there is one
 */
export const tablesBehind = (link: LinkPlan, owner: Side, target: string, middle: string): Behind => {
  const { through } = link;
  const table = sql`${sql.table(link.target.table)} as ${sql.id(target)}`;
  const to: Side = [target, columnsOf(link.target, link.to)];
  if (through === null) return { from: table, on: joinedOn(to, owner) };
  const holders: Side = [middle, columnsOf(through.entity, through.from)];
  return { from: sql`${table}${joinMiddle(link, target, middle)}`, on: joinedOn(holders, owner) };
};
