import type { LoadFigure, LoadLink, LoadPlan, SeenRows } from '../load/plan-load.js';
import type { ColumnPlan, LinkPlan } from '../plan/entity-plan.js';
import { figures } from '../plan/figures.js';
import { keptBy } from '../util/kept-by.js';
import { accepting } from '../values/accept.js';
import { figureOf } from '../values/figures.js';
import { satisfiesAll } from '../values/satisfies.js';
import type { MemoryRow } from './memory-table.js';
import type { MemoryTables } from './memory-tables.js';

/** Makes a row as a load plan sees it. */
type MakeView = (row: MemoryRow) => MemoryRow;

/** A load plan, or the name of an entity alone: rows in memory are whole. */
export type Loaded = Pick<LoadPlan, 'entity'> & Partial<LoadPlan>;

const accepted = ({ type, nullable }: ColumnPlan, value: unknown): unknown =>
  value === null && nullable ? null : accepting(type)(value);

/** Whether a load plan sees less than there is behind its links. */
const isRestricted = ({ links = [], figures: figured = [] }: Loaded): boolean =>
  figured.some(({ seen }) => seen !== null) ||
  links.some(({ seen, plan }) => seen !== null || isRestricted(plan));

/** Rows are live, with every link there is; where a caller does not see all of them, it is given views. */
export class MemoryViews {
  readonly #tables: MemoryTables;

  /** What makes the rows that a plan loads; null where they are those of the table. */
  readonly of: (plan: Loaded) => MakeView | null = keptBy((plan: Loaded) =>
    isRestricted(plan) ? this.#maker(plan, false) : null,
  );

  /** What makes rows that stay as they are now, whatever is changed or taken back later: those of a transaction. */
  readonly fixed: (plan: Loaded) => MakeView = keptBy((plan: Loaded) => this.#maker(plan, true));

  constructor(tables: MemoryTables) {
    this.#tables = tables;
  }

  #maker({ links: linked = [], figures: figured = [] }: Loaded, isFixed: boolean): MakeView {
    const links = linked.map((loading) => [loading, this.#maker(loading.plan, isFixed)] as const);
    return (row) => {
      const view: Record<PropertyKey, unknown> = { ...row };
      for (const [loading, make] of links)
        if (isFixed) view[loading.link.name] = this.#behind(loading, row, make);
        else
          Object.defineProperty(view, loading.link.name, {
            enumerable: true,
            get: () => this.#behind(loading, row, make),
          });
      if (figured.length > 0)
        view[figures] = Object.fromEntries(figured.map((figure) => [figure.name, this.#figure(figure, row)]));
      return view;
    };
  }

  #behind({ link, seen }: LoadLink, row: MemoryRow, make: MakeView): unknown {
    const rows = this.#seen(link, seen, row).map(make);
    return link.kind === 'toMany' ? rows : (rows[0] ?? null);
  }

  #figure({ link, selection, seen, of }: LoadFigure, row: MemoryRow): unknown {
    const rows = this.#seen(link, seen, row).filter((other) => satisfiesAll(selection.where, other));
    if (of !== null) {
      const values = rows.map((other) => accepted(of.column, other[of.column.name]));
      return figureOf(
        of.how,
        of.column.type,
        values.filter((value) => value !== null),
      );
    }
    return selection.limit === null ? rows.length : Math.min(rows.length, selection.limit);
  }

  #seen(link: LinkPlan, seen: SeenRows | null, row: MemoryRow): readonly MemoryRow[] {
    const pairs = this.#tables.pairs(link, row);
    if (seen === null) return pairs.map(([target]) => target);
    return pairs
      .filter(
        ([target, middle]) => satisfiesAll(seen.rows, target) && satisfiesAll(seen.middle, middle ?? target),
      )
      .map(([target]) => target);
  }
}
