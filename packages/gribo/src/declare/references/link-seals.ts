import type { DeclaredNode, ShapePlan } from '../../plan/declared.js';
import type { ColumnPlan, EntityPlan, LinkPlan } from '../../plan/entity-plan.js';
import type { BoundEntity } from '../entity/model.js';
import type { ListPlace, RowPlace } from './member.js';

type Model = BoundEntity['model'];

const labelsOf = ({ columns }: EntityPlan, names: readonly string[]): readonly string[] =>
  columns.flatMap(({ name, sealed }) => (sealed !== null && names.includes(name) ? [sealed] : []));

/** The column of a link's owner that a column behind it is equal to; undefined where there is none. */
const ownersColumn = ({ from, to, through }: LinkPlan, name: string): string | undefined =>
  through === null ? from[to.indexOf(name)] : undefined;

/** The column of the row where a way starts that a column at its end is equal to; null where there is none. */
const atStart = (path: readonly LinkPlan[], name: string): string | null => {
  const link = path.at(-1);
  if (link === undefined) return name;
  const from = ownersColumn(link, name);
  return from === undefined ? null : atStart(path.slice(0, -1), from);
};

/** The seals of a link's own column, and of those that it is equal to further up the way. */
const sealsOfOwner = (
  model: Model,
  link: LinkPlan,
  above: readonly LinkPlan[],
  name: string,
): readonly string[] => {
  const from = ownersColumn(link, name);
  const owner = model.get(link.owner);
  if (from === undefined || owner === undefined) return [];
  return [...labelsOf(owner.entity, [from]), ...sealsOfWay(model, above, from)];
};

/** The seals of the columns that lead to a column of another row: they hold the very same value. */
const sealsOfWay = (model: Model, path: readonly LinkPlan[], name: string): readonly string[] => {
  const link = path.at(-1);
  return link === undefined ? [] : sealsOfOwner(model, link, path.slice(0, -1), name);
};

/** The seals of a column of a row: its own, and those of what it is equal to on the way there. */
export const columnSeals = ({ bound, path }: RowPlace, { name, sealed }: ColumnPlan): readonly string[] => [
  ...new Set([...(sealed === null ? [] : [sealed]), ...sealsOfWay(bound.model, path, name)]),
];

/** Finds the columns of a shape's own row whose values its members show, with no seal that is lifted for somebody. */
class Shown {
  /** A shape may be in another one many times over. */
  readonly #known = new Map<ShapePlan, ReadonlySet<string>>();

  by(shape: ShapePlan): ReadonlySet<string> {
    const known = this.#known.get(shape);
    if (known !== undefined) return known;
    const names = new Set(shape.fields.flatMap(({ node }) => this.#of(node)));
    this.#known.set(shape, names);
    return names;
  }

  #of(node: DeclaredNode): readonly string[] {
    switch (node.kind) {
      case 'column':
        return named(atStart(node.path, node.column.name));
      case 'derived':
        return node.inputs.flatMap((input) => this.#of(input));
      case 'converted':
        return node.conversion.lifts ? [] : this.#of(node.input);
      case 'group':
        return node.fields.flatMap((field) => this.#of(field.node));
      case 'cases':
        return [
          ...node.cases.map((one) => one.node),
          ...(node.otherwise === null ? [] : [node.otherwise]),
        ].flatMap((one) => this.#of(one));
      case 'either':
        return [...this.#of(node.node), ...this.#of(node.otherwise)];
      case 'given':
      case 'unlessNull':
      case 'deprecated':
        return this.#of(node.node);
      case 'nested':
        return [...this.by(node.shape)].flatMap((name) => named(atStart(node.path, name)));
      case 'nestedList':
      case 'first':
        return [...this.by(node.shape)].flatMap((name) => named(atStart([...node.path, node.link], name)));
      case 'unsealed':
      case 'fact':
      case 'constant':
      case 'figure':
        return [];
      default:
        return node satisfies never;
    }
  }
}

const named = (name: string | null): readonly string[] => (name === null ? [] : [name]);

/** The seals of what a shape shows of its row, by those of each of its columns there. */
const sealsShown = (
  { target, to }: LinkPlan,
  shape: ShapePlan,
  sealsOf: (name: string) => readonly string[],
): readonly string[] => {
  // Most links are over no sealed column: then nothing has to be looked for.
  const sealed = to.filter((name) => sealsOf(name).length > 0);
  if (sealed.length === 0 || shape.entity !== target) return [];
  const shown = new Shown().by(shape);
  return sealed.filter((name) => shown.has(name)).flatMap(sealsOf);
};

/** The seals of a nested row: it shows what a sealed column on the way to it holds. */
export const nestedSeals = ({ bound, path }: RowPlace, shape: ShapePlan): readonly string[] => {
  const link = path.at(-1);
  if (link === undefined) return [];
  return [...new Set(sealsShown(link, shape, (name) => sealsOfWay(bound.model, path, name)))];
};

/** The seals of that there are rows behind a to-many link, and how many: it tells what their own sealed columns hold. */
export const thereSeals = ({ target, to, through }: LinkPlan): readonly string[] =>
  through === null ? labelsOf(target, to) : labelsOf(through.entity, [...through.from, ...through.to]);

/**
 * The seals of rows behind a to-many link: those of that they are there, and they may show what a sealed column on the way to them
 * holds.
 */
export const listSeals = ({ bound, path, link }: ListPlace, shape: ShapePlan): readonly string[] => {
  const shown = sealsShown(link, shape, (name) => sealsOfOwner(bound.model, link, path, name));
  return [...new Set([...thereSeals(link), ...shown])];
};
