import { unknownEntity } from '../errors/unknown-entity.js';
import type { LinkPlan } from '../plan/entity-plan.js';
import type { LinkedEntities, LinkedEntity } from '../plan/linked-entity.js';
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
  row(entity: string, values: Readonly<Record<string, unknown>>): MemoryRow {
    const Made = this.#makers.get(entity) ?? Object;
    // What is assigned are the entity's columns, as the caller made them.
    return Object.freeze(Object.assign(new Made(), values)) as MemoryRow;
  }

  /** The rows behind a link. */
  behind(link: LinkPlan, row: MemoryRow): readonly MemoryRow[] {
    const target = this.table(link.target.name);
    if (link.through === null) return target.behind(link, row);
    const { entity, from, to } = link.through;
    const middle = this.table(entity.name).having(from, joinText(row, link.from));
    return middle.flatMap((pair) => target.having(link.to, joinText(pair, to)));
  }

  /** A class whose instances find their links in the tables as they are when they are read. */
  #rowClass({ links }: LinkedEntity): new () => object {
    const Made = class {};
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
