import { type Key, type LoadPlan, type Store, storeFor } from 'gribo';
import { rulesFor } from 'gribo/kit';
import { askingAs } from '../asked/caller.js';
import { KnownModel } from '../asked/known-model.js';
import type { GriboConfig } from '../config/config.js';
import { keyOf, labelOf } from './row-label.js';

/** A stored row, and what a caller may do with it. */
export interface SeenRow {
  readonly key: string;
  readonly label: string;
  readonly isSeen: boolean;
  readonly isChanged: boolean;
}

/** Which stored rows of an entity a caller sees and changes. */
export interface RowsSeen {
  readonly rows: readonly SeenRow[];
  /** How many rows are stored, and how many of them the caller sees. */
  readonly stored: number;
  readonly seen: number;
}

const ROWS = 30;

/** Which stored rows of an entity are a caller's to see and to change, tried on the rows themselves. */
export const rowsSeen = async (
  store: Store,
  config: GriboConfig,
  name: string,
  whom: { readonly audience: string | null; readonly caller: string | null },
): Promise<RowsSeen> => {
  const { entity } = new KnownModel(config).entity(name);
  const named = whom.audience === null ? {} : { audience: whom.audience };
  const { caller, now } = askingAs(config, whom.caller === null ? named : { as: whom.caller });
  const plan: LoadPlan = {
    entity: entity.name,
    table: entity.table,
    key: entity.key,
    columns: entity.columns.filter(({ key, sealed }) => key || sealed === null),
    links: [],
    figures: [],
  };
  const rows = await store.list(plan, { limit: ROWS });
  const scoped = storeFor(store, config.api, caller, now);
  const change = rulesFor(config.api.plan, caller.audience).get(entity.name)?.change ?? null;
  const tried = async (row: object): Promise<SeenRow> => {
    const key = entity.key.map((part) => (row as Readonly<Record<string, unknown>>)[part]) as Key;
    const isSeen = (await scoped.read(plan, key)) !== null;
    const isChanged = isSeen && (change === null || (await scoped.read(plan, key, [change])) !== null);
    return { key: keyOf(entity, row), label: labelOf(entity, row), isSeen, isChanged };
  };
  return {
    rows: await Promise.all(rows.map(tried)),
    stored: await store.count(entity.name),
    seen: await scoped.count(entity.name),
  };
};
