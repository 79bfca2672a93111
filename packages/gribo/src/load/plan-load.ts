import type { ColumnType } from '../plan/column-type.js';
import type {
  Figure,
  FigureNode,
  ListSelection,
  RowCondition,
  SettledValue,
  SortKey,
  StoreCondition,
} from '../plan/condition.js';
import type { Coding, ColumnPlan, EntityPlan, LinkPlan } from '../plan/entity-plan.js';
import { everyRow } from '../plan/every-row.js';
import { figureName } from '../plan/figure-name.js';
import { leavesOf } from '../plan/leaves-of.js';
import type { ResolvedBody, ResolvedField, ResolvedNode } from '../plan/resolved.js';
import { freeze } from '../util/freeze.js';
import { keptBy } from '../util/kept-by.js';

/** A column to load: the row's property, and the name and type it is stored under. */
export interface LoadColumn {
  readonly name: string;
  readonly stored: string;
  readonly type: ColumnType;
  readonly coded: Coding | null;
}

/** Which rows behind a link there are for a caller: conditions on them, and on those in the middle of a many-to-many link. */
export interface SeenRows {
  readonly rows: readonly StoreCondition[];
  readonly middle: readonly StoreCondition[];
}

/** A to-many link of which a figure is wanted, and no rows. */
export interface LoadFigure {
  /** What is made of a column of its rows; null: how many they are. */
  readonly of: Figure | null;
  /** The name under which the row keeps the figure: `row[figures][name]`. */
  readonly name: string;
  readonly link: LinkPlan;
  readonly selection: ListSelection;
  /** Null: all of them. */
  readonly seen: SeenRows | null;
}

/** A link whose row or rows are loaded, and what of them. */
export interface LoadLink {
  readonly link: LinkPlan;
  /** Which rows of a to-many link; where members want different ones, all of them. */
  readonly selection: ListSelection;
  /** Null: all of them. */
  readonly seen: SeenRows | null;
  readonly plan: LoadPlan;
}

/** What has to be loaded of one entity: these columns and links, and nothing else. */
export interface LoadPlan {
  readonly entity: string;
  readonly table: string;
  /** Property names of the key columns, in order. */
  readonly key: readonly string[];
  /** Columns that members read, and those that join and identify rows, in the entity's order. */
  readonly columns: readonly LoadColumn[];
  readonly links: readonly LoadLink[];
  readonly figures: readonly LoadFigure[];
}

export const sameSelection = (a: ListSelection, b: ListSelection): boolean =>
  a === b || (a.limit === null && b.limit === null && a.pick === null && b.pick === null);

/** Gathers what is needed of one entity, over all members that reach it. */
class Needs {
  readonly #entity: EntityPlan;
  readonly #columns = new Set<string>();
  readonly #links = new Map<string, { link: LinkPlan; selection: ListSelection; needs: Needs }>();
  readonly #figures = new Map<string, LoadFigure>();

  constructor(entity: EntityPlan) {
    this.#entity = entity;
    for (const name of entity.key) this.#columns.add(name);
  }

  column(column: ColumnPlan): void {
    this.#columns.add(column.name);
  }

  figure({ link, selection, of }: Omit<FigureNode<StoreCondition>, 'kind' | 'path'>): void {
    const name = figureName({ link, selection, of });
    this.#figures.set(name, freeze({ name, link, selection, of, seen: null }));
  }

  /** What is needed behind a link; the columns that join both sides are. */
  behind(link: LinkPlan, selection: ListSelection = everyRow): Needs {
    for (const name of link.from) this.#columns.add(name);
    const known = this.#links.get(link.name);
    const needs = known?.needs ?? new Needs(link.target);
    if (link.through === null) for (const name of link.to) needs.#columns.add(name);
    needSelection(selection, needs);
    const agreed = known === undefined || sameSelection(known.selection, selection) ? selection : everyRow;
    this.#links.set(link.name, { link, selection: agreed, needs });
    return needs;
  }

  at(path: readonly LinkPlan[]): Needs {
    return path.reduce<Needs>((needs, link) => needs.behind(link), this);
  }

  plan(): LoadPlan {
    const columns = this.#entity.columns.filter((column) => this.#columns.has(column.name));
    // Rows of a link that is loaded whole are counted where they are.
    const figures = [...this.#figures.values()].filter(({ link, selection, of }) => {
      if (of !== null) return true;
      const loaded = this.#links.get(link.name);
      const isWhole = loaded !== undefined && sameSelection(loaded.selection, everyRow);
      return !(isWhole && sameSelection(selection, everyRow));
    });
    return freeze({
      entity: this.#entity.name,
      table: this.#entity.table,
      key: this.#entity.key,
      columns: freeze(columns.map(({ name, stored, type, coded }) => freeze({ name, stored, type, coded }))),
      links: freeze(
        [...this.#links.values()].map(({ link, selection, needs }) =>
          freeze({ link, selection, seen: null, plan: needs.plan() }),
        ),
      ),
      figures: freeze(figures),
    });
  }
}

const needValue = (node: SettledValue, needs: Needs): void => {
  switch (node.kind) {
    case 'column':
      return needs.at(node.path).column(node.column);
    case 'derived':
      needs.at(node.guard);
      for (const input of node.inputs) needValue(input, needs);
      return;
    case 'converted':
      return needValue(node.input, needs);
    case 'figure':
      return needs.at(node.path).figure(node);
    case 'fact':
    case 'constant':
      return;
    default:
      return node satisfies never;
  }
};

/** What decides on rows behind a link, and on their order: those who write look at it again. */
const needSelection = ({ where, sort }: ListSelection, needs: Needs): void => {
  for (const condition of where) needCondition(condition, needs);
  needSort(sort, needs);
};

const needSort = (sort: readonly SortKey[], needs: Needs): void => {
  for (const { path, column, shown } of sort) {
    needs.at(path).column(column);
    if (shown !== null) needCondition(shown, needs);
  }
};

const needCondition = (condition: RowCondition, needs: Needs): void => {
  for (const leaf of leavesOf(condition)) {
    switch (leaf.kind) {
      case 'compares':
        needValue(leaf.left, needs);
        if (leaf.right.kind !== 'value') needValue(leaf.right, needs);
        break;
      case 'thereIs':
        needs.at(leaf.path).behind(leaf.link, leaf.selection);
        break;
      case 'holds':
        needs.at(leaf.guard);
        for (const input of leaf.inputs) needValue(input, needs);
        break;
      case 'asked':
        break;
      default:
        leaf satisfies never;
    }
  }
};

const needFields = (fields: readonly ResolvedField[], needs: Needs): void => {
  for (const { condition, node } of fields) {
    if (condition !== null) needCondition(condition, needs);
    needNode(node, needs);
  }
};

const needNode = (node: ResolvedNode, needs: Needs): void => {
  switch (node.kind) {
    case 'group':
      return needFields(node.fields, needs);
    case 'nested':
      return needFields(node.shape.fields, needs.at(node.path));
    case 'nestedList':
      return needFields(node.shape.fields, needs.at(node.path).behind(node.link, node.selection));
    case 'first':
      return needFields(
        node.shape.fields,
        needs.at(node.path).behind(node.link, freeze({ ...node.selection, limit: 1 })),
      );
    default:
      return needValue(node satisfies SettledValue, needs);
  }
};

/** What has to be loaded to know the order of rows. */
export const planOrder = (entity: EntityPlan, sort: readonly SortKey[]): LoadPlan => {
  const needs = new Needs(entity);
  needSort(sort, needs);
  return needs.plan();
};

const planOf = (body: ResolvedBody): LoadPlan => {
  const needs = new Needs(body.content.entity);
  needSort(body.sort, needs);
  needFields(body.content.fields, needs);
  return needs.plan();
};

/** What a resolved body needs loaded: the same object for the same body. */
export const planLoad: (body: ResolvedBody) => LoadPlan = keptBy(planOf);
