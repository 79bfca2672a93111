import type { OpenRows } from 'gribo/kit';
import type { CopiedForm } from '../dialects/dialect.js';
import { copyLayout, lineRow } from '../load/copy-layout.js';
import type { RowsStatement } from '../load/load-rows.js';

/** Rows that come as lines of a statement. */
export const copiedRows = (
  { node, width }: RowsStatement,
  { isWhole }: CopiedForm,
  chunks: AsyncIterator<Uint8Array>,
): OpenRows => ({
  layout: copyLayout(node, isWhole),
  width,
  row: lineRow(node),
  chunks,
});
