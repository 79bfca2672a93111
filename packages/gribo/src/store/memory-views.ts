import type { LoadCount, LoadLink, LoadPlan, SeenRows } from '../load/plan-load.js';
import { counts } from '../plan/counts.js';
import type { LinkPlan } from '../plan/entity-plan.js';
import { keptBy } from '../util/kept-by.js';
import { satisfiesAll } from '../values/satisfies.js';
import type { MemoryRow } from './memory-table.js';
import type { MemoryTables } from './memory-tables.js';

/** Makes a row as a load plan sees it. */
type MakeView = (row: MemoryRow) => MemoryRow;

/** A load plan, or the name of an entity alone: rows in memory are whole. */
export type Loaded = Pick<LoadPlan, 'entity'> & Partial<LoadPlan>;

/** Whether a load plan sees less than there is behind its links. */
const isRestricted = ({ links = [], counts: counted = [] }: Loaded): boolean =>
  counted.some(({ seen }) => seen !== null) ||
  links.some(({ seen, plan }) => seen !== null || isRestricted(plan));

/** Rows are live, with every link there is; where a caller does not see all of them, it is given views. */
export class MemoryViews {
  readonly #tables: MemoryTables;

  /** What makes the rows that a plan loads; null where they are those of the table. */
  readonly of: (plan: Loaded) => MakeView | null = keptBy((plan: Loaded) =>
    isRestricted(plan) ? this.#maker(plan) : null,
  );

  constructor(tables: MemoryTables) {
    this.#tables = tables;
  }

  #maker({ links: linked = [], counts: counted = [] }: Loaded): MakeView {
    const links = linked.map((loading) => [loading, this.#maker(loading.plan)] as const);
    return (row) => {
      const view: Record<PropertyKey, unknown> = { ...row };
      for (const [loading, make] of links)
        Object.defineProperty(view, loading.link.name, {
          enumerable: true,
          get: () => this.#behind(loading, row, make),
        });
      if (counted.length > 0)
        view[counts] = Object.fromEntries(counted.map((count) => [count.name, this.#count(count, row)]));
      return view;
    };
  }

  #behind({ link, seen }: LoadLink, row: MemoryRow, make: MakeView): unknown {
    const rows = this.#seen(link, seen, row).map(make);
    return link.kind === 'toMany' ? rows : (rows[0] ?? null);
  }

  #count({ link, selection, seen }: LoadCount, row: MemoryRow): number {
    const rows = this.#seen(link, seen, row).filter((other) => satisfiesAll(selection.where, other));
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
