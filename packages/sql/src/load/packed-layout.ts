import type { LoadPlan } from 'gribo';
import { figures, type PackedLayout } from 'gribo/kit';
import type { PackedForm } from '../dialects/dialect.js';
import type { FlatRow, MadeRow, RowNode } from './selecting.js';

/** Whether all of a plan is in one statement's rows, each in one. */
export const isFlat = ({ links }: LoadPlan): boolean =>
  links.every(({ link, plan }) => link.kind === 'toOne' && isFlat(plan));

/** An output's name in the flat row is its place, behind a letter. */
const placeOf = (as: string): number => Number(as.slice(1));

const nameOf = (place: number): string => `c${place}`;

/** Where the values of a row stand in the line that is sent for it. */
export const packedLayout = (node: RowNode, isWhole: PackedForm['isWhole']): PackedLayout => ({
  columns: new Map(
    node.outputs
      .filter(({ column }) => isWhole(column))
      .map(({ name, as }): [string, number] => [name, placeOf(as)]),
  ),
  ones: new Map(
    node.ones.map(({ link, node: inner }): [string, PackedLayout] => [link, packedLayout(inner, isWhole)]),
  ),
  present: placeOf(node.present),
});

type Fields = readonly (string | null)[];

/** A line's fields as a flat row. */
const flatOf = (fields: Fields): FlatRow =>
  Object.fromEntries(fields.map((field, place) => [nameOf(place), field]));

/** Makes the row that a line's fields stand for, as `makeRow` does of a flat row; what depends on the plan alone is done once. */
export const lineRow = (node: RowNode): ((fields: Fields) => MadeRow) => {
  const outputs = node.outputs.map(({ name, as, decode }) => ({ name, place: placeOf(as), decode }));
  const ones = node.ones.map(({ link, node: inner }) => ({
    link,
    present: placeOf(inner.present),
    make: lineRow(inner),
  }));
  const { figured } = node;
  return (fields) => {
    const row: MadeRow = {};
    for (const { name, place, decode } of outputs) {
      const field = fields[place] ?? null;
      row[name] = field === null || decode === null ? field : decode(field);
    }
    for (const { link, present, make } of ones)
      row[link] = (fields[present] ?? null) === null ? null : make(fields);
    if (figured.length > 0) {
      const flat = flatOf(fields);
      row[figures] = Object.fromEntries(figured.map(({ name, read }) => [name, read(flat)]));
    }
    return row;
  };
};
