import { RowError } from 'gribo';
import type { Coding } from 'gribo/kit';
import type { SqlColumn, SqlDialect } from './dialect.js';

/** What a function of the user's throws may show a value, so it is not repeated. */
const guarded = (stored: string, what: string, call: () => unknown): unknown => {
  try {
    return call();
  } catch {
    throw new RowError('ROW_FUNCTION', stored, `expected ${what}`, ': its function threw');
  }
};

/** What is stored for a value. */
export const storedForm = (
  { stored, coded }: Pick<SqlColumn, 'stored' | 'coded'>,
  value: unknown,
): unknown =>
  coded === null || value === null || value === undefined
    ? value
    : guarded(stored, 'a stored form to be written', () => coded.write(value));

/** The value of what is stored. */
const readForm = ({ stored }: SqlColumn, { read }: Coding, form: unknown): unknown =>
  guarded(stored, 'the stored form to be read', () => read(form));

/** A dialect that takes and gives the values of columns which are stored in a form of their own. */
export const withForms = (dialect: SqlDialect): SqlDialect => ({
  ...dialect,
  encode: (column, value) => dialect.encode(column, storedForm(column, value)),
  decode: (column) => {
    const decode = dialect.decode(column);
    const { coded } = column;
    if (coded === null) return decode;
    return (value) => readForm(column, coded, decode === null ? value : decode(value));
  },
  comparable: (column, value) => dialect.comparable(column, storedForm(column, value)),
  equals: (column, ref, value) => dialect.equals(column, ref, storedForm(column, value)),
  among: (column, ref, values) =>
    dialect.among(
      column,
      ref,
      values.map((value) => storedForm(column, value)),
    ),
});
