import type { Values } from '../change/change-plan.js';
import { unknownEntity } from '../errors/unknown-entity.js';
import type { LinkPlan } from '../plan/entity-plan.js';
import type { LinkedEntities, LinkedEntity } from '../plan/linked-entity.js';
import { PAIRS } from '../values/satisfies.js';
import { keptValues } from './kept-values.js';
import { joinText, type MemoryRow, MemoryTable } from './memory-table.js';

/** All tables of a model, and the rows behind its links. */
export class MemoryTables {
  readonly #entities = new Map<string, LinkedEntity>();
  readonly #tables = new Map<string, MemoryTable>();
  readonly #makers = new Map<string, new () => object>();

  constructor(model: LinkedEntities) {
    for (const linked of Object.values(model)) {
      this.#entities.set(linked.entity.name, linked);
      this.#tables.set(linked.entity.name, new MemoryTable(linked.entity));
      this.#makers.set(linked.entity.name, this.#rowClass(linked));
    }
  }

  get entities(): Iterable<LinkedEntity> {
    return this.#entities.values();
  }

  table(entity: string): MemoryTable {
    const table = this.#tables.get(entity);
    if (table === undefined) throw unknownEntity(entity, this.#entities.keys());
    return table;
  }

  linked(entity: string): LinkedEntity {
    return this.#entities.get(entity) ?? { entity: this.table(entity).entity, links: new Map() };
  }

  /** A row of these values, with its links. */
  row(entity: string, values: Values): MemoryRow {
    const Made = this.#makers.get(entity) ?? Object;
    // What is assigned are the entity's columns, as the caller made them.
    return Object.freeze(
      Object.assign(new Made(), keptValues(this.table(entity).entity, values)),
    ) as MemoryRow;
  }

  /** The rows behind a link. */
  behind(link: LinkPlan, row: MemoryRow): readonly MemoryRow[] {
    if (link.through === null) return this.table(link.target.name).behind(link, row);
    return this.pairs(link, row).map(([target]) => target);
  }

  /** The rows behind a link, each with the one in the middle of a many-to-many link; null where there is none. */
  pairs(link: LinkPlan, row: MemoryRow): readonly (readonly [MemoryRow, MemoryRow | null])[] {
    const target = this.table(link.target.name);
    if (link.through === null) return target.behind(link, row).map((found) => [found, null] as const);
    const { entity, from, to } = link.through;
    const middle = this.table(entity.name).having(from, joinText(row, link.from));
    return middle.flatMap((pair) =>
      target.having(link.to, joinText(pair, to)).map((found) => [found, pair] as const),
    );
  }

  /** A class whose instances find their links in the tables as they are when they are read. */
  #rowClass({ links }: LinkedEntity): new () => object {
    const Made = class {};
    const pairs = (row: MemoryRow, link: LinkPlan) => this.pairs(link, row);
    Object.defineProperty(Made.prototype, PAIRS, {
      value(this: MemoryRow, link: LinkPlan): unknown {
        return pairs(this, link);
      },
    });
    for (const link of links.values()) {
      const find = (row: MemoryRow) => this.behind(link, row);
      Object.defineProperty(Made.prototype, link.name, {
        get(this: MemoryRow): unknown {
          return link.kind === 'toMany' ? find(this) : (find(this)[0] ?? null);
        },
      });
    }
    return Made;
  }
}
