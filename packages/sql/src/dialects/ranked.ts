import { sql } from 'kysely';
import type { Piece, SqlColumn } from './dialect.js';

const choicesOf = ({ type }: SqlColumn): readonly string[] => (type.kind === 'oneOf' ? type.choices : []);

/** The place of a choice among those declared; what is none of them comes behind them. */
export const rankOf = (column: SqlColumn, value: unknown): Piece => {
  const choices = choicesOf(column);
  const place = choices.indexOf(String(value));
  return sql.lit(place < 0 ? choices.length : place);
};

/**
 * The place of a column's choice among those declared.
 *
 * @param ref the column, as text that is compared to the letter
 * @param label a choice, to be compared with that
 */
export const ranked = (column: SqlColumn, ref: Piece, label: (choice: string) => Piece): Piece => {
  const choices = choicesOf(column);
  const cases = choices.map((choice, i) => sql` when ${label(choice)} then ${sql.lit(i)}`);
  const among = sql`case ${ref}${sql.join(cases, sql``)} else ${sql.lit(choices.length)} end`;
  return sql`case when ${ref} is not null then ${among} end`;
};
