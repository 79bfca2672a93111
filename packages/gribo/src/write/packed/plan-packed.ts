import type { ColumnType } from '../../plan/column-type.js';
import type { LinkPlan } from '../../plan/entity-plan.js';
import type { ResolvedField, ResolvedNode, ResolvedShape } from '../../plan/resolved.js';
import type { PackedLayout } from './open-rows.js';
import { packedKind } from './packed-kinds.js';

/** A to-one link on the way to a value: the field that is null where it leads to no row, and whether it may. */
export interface PackedStep {
  readonly present: number;
  readonly nullable: boolean;
}

/** How a member is made of the fields of a line. */
export type PackedValue =
  | { readonly kind: 'literal'; readonly value: unknown }
  | {
      readonly kind: 'field';
      readonly steps: readonly PackedStep[];
      readonly place: number;
      readonly type: ColumnType;
      readonly nullable: boolean;
    }
  | { readonly kind: 'group'; readonly fields: readonly PackedField[] }
  | { readonly kind: 'row'; readonly steps: readonly PackedStep[]; readonly fields: readonly PackedField[] };

export interface PackedField {
  readonly name: string;
  readonly unlessNull: boolean;
  readonly value: PackedValue;
}

/** Where a row's fields stand, and which links lead to it. */
interface Place {
  readonly layout: PackedLayout;
  readonly steps: readonly PackedStep[];
}

const behind = (place: Place, path: readonly LinkPlan[]): Place | null => {
  let at = place;
  for (const link of path) {
    const layout = at.layout.ones.get(link.name);
    if (layout === undefined) return null;
    at = { layout, steps: [...at.steps, { present: layout.present, nullable: link.nullable }] };
  }
  return at;
};

const fieldsAt = (fields: readonly ResolvedField[], place: Place): PackedField[] | null => {
  const planned: PackedField[] = [];
  for (const { name, condition, unlessNull, node } of fields) {
    const value = condition === null ? valueAt(node, place) : null;
    if (value === null || (unlessNull && mayBeNullAsText(value))) return null;
    planned.push({ name, unlessNull, value });
  }
  return planned;
};

/** Whether null may be written in more than one way: JSON has its own. */
const mayBeNullAsText = (value: PackedValue): boolean => value.kind === 'field' && value.type.kind === 'json';

const valueAt = (node: ResolvedNode, place: Place): PackedValue | null => {
  switch (node.kind) {
    case 'constant':
      return { kind: 'literal', value: node.value };
    case 'column': {
      const { type, nullable, name, via } = node.column;
      const at = via === null ? behind(place, node.path) : null;
      const field = at?.layout.columns.get(name);
      if (at === null || field === undefined || packedKind(type) === undefined) return null;
      return { kind: 'field', steps: at.steps, place: field, type, nullable };
    }
    case 'group': {
      const fields = fieldsAt(node.fields, place);
      return fields && { kind: 'group', fields };
    }
    case 'nested': {
      const at = behind(place, node.path);
      // Inside the row it is known to be there.
      const fields = at && fieldsAt(node.shape.fields, { layout: at.layout, steps: [] });
      return at && fields && { kind: 'row', steps: at.steps, fields };
    }
    default:
      // What is computed takes values, and rows of lists are in no line.
      return null;
  }
};

/** How the rows of a shape are made of lines; null where that takes more than columns. */
export const planPacked = (shape: ResolvedShape, layout: PackedLayout): readonly PackedField[] | null =>
  fieldsAt(shape.fields, { layout, steps: [] });
