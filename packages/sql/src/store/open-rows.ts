import type { OpenRows } from 'gribo/kit';
import type { PackedForm } from '../dialects/dialect.js';
import type { RowsStatement } from '../load/load-rows.js';
import { packedLayout } from '../load/packed-layout.js';
import { type FlatRow, makeRow, type Owners } from '../load/selecting.js';

/** Lines have no rows of to-many links, so none are to be loaded for them. */
const NOBODY: Owners = new Map();

/** Rows that come as lines of a statement. */
export const openRows = (
  { node, width }: RowsStatement,
  { isWhole }: PackedForm,
  chunks: AsyncIterator<Uint8Array | string>,
): OpenRows => ({
  layout: packedLayout(node, isWhole),
  width,
  // A list has its values by their places.
  row: (fields) => makeRow(node, fields as unknown as FlatRow, NOBODY),
  chunks,
});
