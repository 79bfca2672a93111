import { type ColumnType, type Figure, figureOf, sumOf } from 'gribo/kit';
import { sql } from 'kysely';
import type { Piece, SqlColumn, SqlFigure } from '../dialect.js';

/** So many digits of a decimal survive in a floating-point number of 64 bits. */
export const DIGITS_OF_DOUBLES = 15;

/** Whether a column of a declared type keeps a text as it is (section 3.1 of SQLite's "Datatypes"). */
export const keepsText = (type: unknown): boolean => {
  const said = String(type ?? '');
  if (/int/i.test(said)) return false;
  return said === '' || /char|clob|text|blob/i.test(said);
};

const digitsIn = ({ type }: SqlColumn): { precision: number; scale: number } =>
  type.kind === 'decimal' ? type : { precision: 0, scale: 0 };

/** Whether floating-point numbers tell all values of a column apart. */
const isSmall = (column: SqlColumn): boolean => digitsIn(column).precision <= DIGITS_OF_DOUBLES;

/** The digits of a decimal that is not negative, with zeros on both sides: as texts, they are in the order of the numbers. */
const padded = (ref: Piece, column: SqlColumn): Piece => {
  const { precision, scale } = digitsIn(column);
  const whole = sql.lit('0'.repeat(precision));
  const point = sql`instr(${ref} || '.', '.')`;
  const before = sql`substr(${whole} || substr(${ref}, 1, ${point} - 1), ${sql.lit(-precision)})`;
  const after = sql`substr(substr(${ref} || '.', ${point} + 1) || ${sql.lit('0'.repeat(scale + 1))}, 1, ${sql.lit(scale)})`;
  return sql`${before} || replace(${after}, '.', '0')`;
};

/** The same with 9 for 0 and so on, so that the largest come first. */
const turned = (digits: Piece): Piece => {
  const letters = 'abcdefghij';
  const lettered = [...letters].reduce<Piece>(
    (text, letter, i) => sql`replace(${text}, ${sql.lit(String(9 - i))}, ${sql.lit(letter)})`,
    digits,
  );
  return [...letters].reduce<Piece>(
    (text, letter, i) => sql`replace(${text}, ${sql.lit(letter)}, ${sql.lit(String(i))})`,
    lettered,
  );
};

/** A decimal as a text without an exponent, whether it is kept as a text or as a number. */
const withoutExponent = (kept: Piece, column: SqlColumn): Piece => {
  const rounded = sql`printf(${sql.lit(`%.${digitsIn(column).scale}f`)}, ${kept})`;
  return sql`case typeof(${kept}) when 'real' then ${rounded} else cast(${kept} as text) end`;
};

/** A decimal as a text that is in the order of the numbers, however it is kept. */
export const digitsInOrder = (kept: Piece, column: SqlColumn): Piece => {
  const ref = sql`(${withoutExponent(kept, column)})`;
  const negative = sql`'0' || ${turned(padded(sql`substr(${ref}, 2)`, column))}`;
  const isNegative = sql`${ref} like '-%' and ${ref} glob '*[1-9]*'`;
  return sql`case when ${isNegative} then ${negative} else '1' || ${padded(sql`ltrim(${ref}, '-')`, column)} end`;
};

/** A decimal as it is compared: SQLite knows none, and many digits do not fit into its numbers. */
export const comparableDecimal = (ref: Piece, column: SqlColumn): Piece =>
  column.native.keeps === 'text' && !isSmall(column) ? digitsInOrder(ref, column) : sql`cast(${ref} as real)`;

/** A number as a decimal's text, without an exponent. */
const plain = (value: number, scale: number): string => {
  const text = String(value);
  if (!/e/i.test(text)) return text;
  return Math.abs(value) < 1 ? value.toFixed(scale) : String(BigInt(value));
};

/** A decimal as the driver has it: where the column makes numbers of texts, as a number. */
export const decimalText = (type: ColumnType, value: unknown): unknown =>
  type.kind === 'decimal' && typeof value === 'number' ? plain(value, type.scale) : value;

/** Figures of decimals, of all their texts in one. */
export const gatheredFigures = (column: SqlColumn, how: Figure['how']): SqlFigure => ({
  parts: [(ref) => sql`group_concat(${withoutExponent(ref, column)}, ' ')`],
  read: ([texts]) => {
    const { type } = column;
    const values = texts === null || texts === undefined ? [] : String(texts).split(' ');
    const made = figureOf(how, type, values);
    return how === 'average' || made === null ? made : sumOf(type, [made]);
  },
});
