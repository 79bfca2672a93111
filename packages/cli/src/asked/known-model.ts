import type { BoundEntity } from 'gribo';
import { type ColumnPlan, didYouMean, type LinkPlan } from 'gribo/kit';
import type { GriboConfig } from '../config/config.js';
import { Mistake } from '../screen/mistake.js';

/** An entity of the model, its columns and links by name. */
export class KnownModel {
  readonly #model: Readonly<Record<string, BoundEntity>>;

  constructor({ model }: GriboConfig) {
    if (model === undefined)
      throw new Mistake('Export the model too: export default { api, store, model: db }.');
    this.#model = model;
  }

  entity(name: string): BoundEntity {
    const bound = Object.hasOwn(this.#model, name) ? this.#model[name] : undefined;
    if (bound !== undefined) return bound;
    throw new Mistake(`There is no entity "${name}".${didYouMean(name, Object.keys(this.#model))}`);
  }

  column({ entity }: BoundEntity, name: string): ColumnPlan {
    const column = entity.columns.find((each) => each.name === name);
    if (column !== undefined) return column;
    throw new Mistake(`${entity.name} has no column "${name}".`);
  }

  link({ entity, links }: BoundEntity, name: string): LinkPlan {
    const link = links.get(name);
    if (link !== undefined) return link;
    throw new Mistake(`${entity.name} has no link "${name}".`);
  }
}
