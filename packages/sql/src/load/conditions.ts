import { GriboError } from 'gribo';
import type {
  ColumnNode,
  Compares,
  EntityPlan,
  LinkPlan,
  LoadFigure,
  LoadLink,
  StoreCondition,
  ThereIs,
} from 'gribo/kit';
import { sql } from 'kysely';
import type { Database } from '../dialects/database.js';
import type { Operator, Piece, SqlColumn } from '../dialects/dialect.js';
import { valuePiece } from './comparisons.js';
import { columnsOf, joinedOn, tablesBehind } from './joined.js';
import { anyOf, EVERYTHING, NOTHING, refOf } from './pieces.js';

/** A table in a statement, and how many stand around it: those inside one have names of their own. */
export interface Scope {
  readonly database: Database;
  readonly alias: string;
  readonly depth: number;
}

/** The tables behind to-one links: how they begin, and the name of the last one. */
interface Way {
  readonly from: Piece;
  readonly on: Piece;
  readonly scope: Scope;
}

/** The entity that a path leads to. */
const ownerOf = (entity: EntityPlan, path: readonly LinkPlan[]): EntityPlan => path.at(-1)?.target ?? entity;

/** Walks to-one links from a table, as the inside of a query. */
const wayOf = (scope: Scope, entity: EntityPlan, path: readonly LinkPlan[]): Way => {
  let [owner, alias] = [entity, scope.alias];
  let from: Piece = sql``;
  let on: Piece = EVERYTHING;
  let { depth } = scope;
  path.forEach((link, i) => {
    const next = `s${++depth}`;
    const table = sql`${sql.table(link.target.table)} as ${sql.id(next)}`;
    const pairs = joinedOn([next, columnsOf(link.target, link.to)], [alias, columnsOf(owner, link.from)]);
    const joined = sql.join(pairs, sql` and `);
    if (i === 0) [from, on] = [table, joined];
    else from = sql`${from} inner join ${table} on ${joined}`;
    [owner, alias] = [link.target, next];
  });
  return { from, on, scope: { ...scope, alias, depth } };
};

/** The value of a column, as it is compared or as it is selected. */
export type Form = (column: SqlColumn, ref: Piece) => Piece;

/** The value of a column, behind to-one links too, as an expression that is put in order. */
export const columnValue = (
  scope: Scope,
  entity: EntityPlan,
  { path, column }: Omit<ColumnNode, 'kind'>,
  form: Form = scope.database.dialect.ordered,
): Piece => {
  const { database, alias } = scope;
  if (path.length === 0) return form(database.column(entity, column), refOf(alias, column.stored));
  const { from, on, scope: end } = wayOf(scope, entity, path);
  const there = database.column(ownerOf(entity, path), column);
  return sql`(select ${form(there, refOf(end.alias, column.stored))} from ${from} where ${on})`;
};

/** Two columns of a row, as they are. */
const columnsPiece = (
  scope: Scope,
  entity: EntityPlan,
  left: ColumnNode,
  operator: Operator,
  right: ColumnNode,
): Piece => {
  const { dialect } = scope.database;
  // Choices are told apart by their places among those of the left one, decimals by its digits.
  const form: Form = (column, ref) => dialect.paired({ ...column, type: left.column.type }, ref);
  const [one, other] = [columnValue(scope, entity, left, form), columnValue(scope, entity, right, form)];
  if (operator === 'atLeast') return sql`${one} >= ${other}`;
  if (operator === 'atMost') return sql`${one} <= ${other}`;
  return sql`${one} = ${other}`;
};

const comparesPiece = (scope: Scope, entity: EntityPlan, { left, operator, right }: Compares): Piece => {
  if (right.kind === 'column') return columnsPiece(scope, entity, left, operator, right);
  // Facts have become values before a store is asked.
  if (right.kind === 'fact') throw new GriboError('CALLER', right.fact.name, 'the fact has no value here');
  const { path, column } = left;
  // Null is equal to nothing, on the other side too.
  if (right.value === null) return NOTHING;
  const { dialect } = scope.database;
  const there = scope.database.column(ownerOf(entity, path), column);
  if (path.length === 0) return valuePiece(dialect, scope.alias, there, operator, right.value);
  const { from, on, scope: end } = wayOf(scope, entity, path);
  const isMissing = operator === 'isNull' && right.value === true;
  const value = isMissing ? false : right.value;
  const inside = sql`exists (select 1 from ${from} where ${on} and ${valuePiece(dialect, end.alias, there, operator, value)})`;
  return isMissing ? sql`not ${inside}` : inside;
};

/** Whether there are such rows behind a to-many link. */
const thereIsPiece = (
  scope: Scope,
  entity: EntityPlan,
  { path, link, selection, middle: between }: ThereIs<StoreCondition>,
): Piece => {
  const way = wayOf(scope, entity, path);
  const owner = ownerOf(entity, path);
  const target = `s${way.scope.depth + 1}`;
  const middle = `s${way.scope.depth + 2}`;
  const end: Scope = { ...scope, alias: target, depth: way.scope.depth + 2 };
  const own = columnsOf(owner, link.from);
  const { from, on } = tablesBehind(link, [way.scope.alias, own], target, middle);
  const where = [
    ...selection.where.map((part) => pieceIn(end, link.target, part)),
    ...between.map((part) => pieceIn({ ...end, alias: middle }, link.through?.entity ?? link.target, part)),
  ];
  const rows = sql`exists (select 1 from ${from} where ${sql.join([...on, ...where], sql` and `)})`;
  return path.length === 0 ? rows : sql`exists (select 1 from ${way.from} where ${way.on} and ${rows})`;
};

/** A condition on rows of the table of a scope. */
export const pieceIn = (scope: Scope, entity: EntityPlan, condition: StoreCondition): Piece => {
  switch (condition.kind) {
    case 'compares':
      return comparesPiece(scope, entity, condition);
    case 'thereIs':
      return thereIsPiece(scope, entity, condition);
    case 'all':
      return condition.of.length === 0
        ? EVERYTHING
        : sql`(${sql.join(
            condition.of.map((part) => pieceIn(scope, entity, part)),
            sql` and `,
          )})`;
    case 'any':
      return anyOf(condition.of.map((part) => pieceIn(scope, entity, part)));
    case 'not':
      // What is compared with null is neither true nor false there: here it does not hold, so its contrary does.
      return sql`((${pieceIn(scope, entity, condition.of)}) is not true)`;
    default:
      return condition satisfies never;
  }
};

/** A condition on rows of an entity, whose table stands under an alias. */
export const conditionPiece = (
  database: Database,
  entity: EntityPlan,
  alias: string,
  condition: StoreCondition,
): Piece => pieceIn({ database, alias, depth: 0 }, entity, condition);

/** Which rows behind a link are selected, of those that there are for the caller. */
export const seenPieces = (
  database: Database,
  { link, selection, seen }: LoadFigure | LoadLink,
  alias: string,
  middle: string,
): readonly Piece[] => [
  ...[...selection.where, ...(seen?.rows ?? [])].map((part) =>
    conditionPiece(database, link.target, alias, part),
  ),
  ...(seen?.middle ?? []).map((part) =>
    conditionPiece(database, link.through?.entity ?? link.target, middle, part),
  ),
];
