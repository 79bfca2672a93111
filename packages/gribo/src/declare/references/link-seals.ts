import type { DeclaredNode, ShapePlan } from '../../plan/declared.js';
import type { ColumnPlan, EntityPlan, LinkPlan } from '../../plan/entity-plan.js';
import { sealedLabels } from '../../plan/sealed-labels.js';
import type { BoundEntity } from '../entity/model.js';
import type { RowPlace } from './member.js';

const labelsOf = ({ columns }: EntityPlan, names: readonly string[]): readonly string[] =>
  columns.flatMap(({ name, sealed }) => (sealed !== null && names.includes(name) ? [sealed] : []));

/** The seals of the columns that lead to a column of another row: they hold the very same value. */
const sealsOfWay = (
  model: BoundEntity['model'],
  path: readonly LinkPlan[],
  name: string,
): readonly string[] => {
  const link = path.at(-1);
  const from = link?.from[link.to.indexOf(name)];
  const owner = link === undefined ? undefined : model.get(link.owner);
  if (link?.kind !== 'toOne' || from === undefined || owner === undefined) return [];
  return [...labelsOf(owner.entity, [from]), ...sealsOfWay(model, path.slice(0, -1), from)];
};

/** The seals of a column of a row: its own, and those of the column that is equal to it on the way there. */
export const columnSeals = ({ bound, path }: RowPlace, column: ColumnPlan): readonly string[] => [
  ...new Set([
    ...sealedLabels({ kind: 'column', path, column }),
    ...sealsOfWay(bound.model, path, column.name),
  ]),
];

/** Whether a member of a shape shows this column of its row, without a seal that is lifted for somebody. */
const shows = (node: DeclaredNode, name: string): boolean => {
  switch (node.kind) {
    case 'column':
      return node.path.length === 0 && node.column.name === name;
    case 'derived':
      return node.inputs.some((input) => shows(input, name));
    case 'converted':
      return !node.conversion.lifts && shows(node.input, name);
    case 'group':
      return node.fields.some((field) => shows(field.node, name));
    case 'cases':
      return [...node.cases.map((one) => one.node), node.otherwise].some(
        (one) => one !== null && shows(one, name),
      );
    case 'given':
    case 'unlessNull':
    case 'deprecated':
      return shows(node.node, name);
    case 'unsealed':
    case 'constant':
    case 'count':
    case 'nested':
    case 'nestedList':
    case 'first':
      return false;
    default:
      return node satisfies never;
  }
};

/** The seals of a nested row: it shows what a sealed column on the way to it holds. */
export const nestedSeals = ({ bound, path }: RowPlace, { fields }: ShapePlan): readonly string[] => {
  const shown = path.at(-1)?.to.filter((name) => fields.some(({ node }) => shows(node, name))) ?? [];
  return [...new Set(shown.flatMap((name) => sealsOfWay(bound.model, path, name)))];
};

/** The seals of rows behind a link: that they are there tells what their sealed columns hold. */
export const listSeals = ({ target, to, through }: LinkPlan): readonly string[] => [
  ...new Set(
    through === null ? labelsOf(target, to) : labelsOf(through.entity, [...through.from, ...through.to]),
  ),
];
