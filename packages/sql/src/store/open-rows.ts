import type { OpenRows } from 'gribo/kit';
import type { PackedForm } from '../dialects/dialect.js';
import type { RowsStatement } from '../load/load-rows.js';
import { lineRow, packedLayout } from '../load/packed-layout.js';

/** Rows that come as lines of a statement. */
export const openRows = (
  { node, width }: RowsStatement,
  { isWhole }: PackedForm,
  chunks: AsyncIterator<Uint8Array | string>,
): OpenRows => ({
  layout: packedLayout(node, isWhole),
  width,
  row: lineRow(node),
  chunks,
});
