import type { LoadPlan } from 'gribo';
import type { PackedLayout } from 'gribo/kit';
import type { PackedForm } from '../dialects/dialect.js';
import type { RowNode } from './selecting.js';

/** Whether all of a plan is in one statement's rows, each in one. */
export const isFlat = ({ links }: LoadPlan): boolean =>
  links.every(({ link, plan }) => link.kind === 'toOne' && isFlat(plan));

/** Where the values of a row stand in the line that is sent for it: its outputs go by their places. */
export const packedLayout = (node: RowNode, isWhole: PackedForm['isWhole']): PackedLayout => ({
  columns: new Map(
    node.outputs
      .filter(({ column }) => isWhole(column))
      .map(({ name, as }): [string, number] => [name, Number(as)]),
  ),
  ones: new Map(
    node.ones.map(({ link, node: inner }): [string, PackedLayout] => [link, packedLayout(inner, isWhole)]),
  ),
  present: Number(node.present),
});
