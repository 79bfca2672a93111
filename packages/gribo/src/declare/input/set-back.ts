import type { ValueNode } from '../../plan/condition.js';
import type { ConversionPlan } from '../../plan/conversion.js';
import type { ColumnPlan, LinkPlan } from '../../plan/entity-plan.js';
import { freeze } from '../../util/freeze.js';

/** What a value sets when it comes back in, or why it cannot. */
export type SetBack =
  | { readonly kind: 'set'; readonly column: ColumnPlan; readonly conversions: readonly ConversionPlan[] }
  | { readonly kind: 'computed' }
  | { readonly kind: 'oneWay'; readonly conversion: ConversionPlan }
  | { readonly kind: 'elsewhere'; readonly column: ColumnPlan; readonly link: LinkPlan };

/** Follows a value back through its conversions, the last one first, to the column of its own row. */
export const setBack = (node: ValueNode): SetBack => {
  const conversions: ConversionPlan[] = [];
  let inner = node;
  while (inner.kind === 'converted') {
    conversions.push(inner.conversion);
    inner = inner.input;
  }
  if (inner.kind !== 'column') return { kind: 'computed' };
  const { column, path } = inner;
  const [link] = path;
  if (link !== undefined) return { kind: 'elsewhere', column, link };
  const conversion = conversions.find(({ invert }) => invert === null);
  if (conversion !== undefined) return { kind: 'oneWay', conversion };
  return freeze({ kind: 'set', column, conversions: freeze(conversions) });
};
