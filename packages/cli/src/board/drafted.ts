import { type AnyBody, jsonSchema, loadPlan, type Store, storeFor, writer } from 'gribo';
import { askingAs } from '../asked/caller.js';
import { KnownModel } from '../asked/known-model.js';
import { planned } from '../asked/planned.js';
import { storedRow } from '../asked/stored-row.js';
import type { GriboConfig } from '../config/config.js';
import { widen } from '../show/widen.js';
import { draftDeclared } from './draft-declared.js';
import { draftSource } from './draft-source.js';
import { draftOf } from './draft-terms.js';
import type { DraftWish } from './draft-wish.js';
import { keyOf } from './row-label.js';

/** A draft as the board shows it. */
export interface DraftData {
  /** What is wrong with it; null: nothing. */
  readonly wrong: string | null;
  /** Its text; empty where it cannot be declared. */
  readonly source: string;
  /** The response for the stored row as JSON; null where there is no row, or something is wrong. */
  readonly response: string | null;
  readonly keys: readonly string[];
  readonly schema: object | null;
  readonly takes: object | null;
}

const NOTHING: DraftData = { wrong: null, source: '', response: null, keys: [], schema: null, takes: null };

const ROWS = 40;

const situationOf = ({ audience, endpoint }: DraftWish) => ({
  audience,
  ...(endpoint === null ? {} : { endpoint }),
});

/** The response for a stored row, and the rows to choose from. */
const shown = async (
  draft: AnyBody,
  wish: DraftWish,
  config: GriboConfig,
  opened: Store,
): Promise<Pick<DraftData, 'keys' | 'response'>> => {
  const { audience, key } = wish;
  const asking = askingAs(config, audience === null ? {} : { audience });
  const body = planned(draft.plan);
  const { entity } = new KnownModel(config).entity(wish.entity);
  const plan = widen(loadPlan(body, situationOf(wish)), entity);
  const store = storeFor(opened, config.api, asking.caller, asking.now);
  const rows = await store.list(plan, { limit: ROWS });
  const row = key === null ? rows[0] : await storedRow(store, plan, entity, key);
  const write = writer(body, situationOf(wish) as never);
  return {
    keys: rows.map((one) => keyOf(entity, one)),
    response: row === undefined ? null : write.json(row as never, asking),
  };
};

/**
 * A draft: its text, and what it would send and take.
 *
 * @throws {Mistake} where the configuration has no model, or that has no such entity
 */
export const drafted = async (wish: DraftWish, config: GriboConfig, store: Store): Promise<DraftData> => {
  const known = new KnownModel(config);
  known.entity(wish.entity);
  if (wish.members.length === 0 && wish.takes.length === 0)
    return { ...NOTHING, wrong: 'Choose what is sent, or what is taken.' };
  try {
    const draft = draftOf(wish, known);
    const { body, input } = draftDeclared(draft);
    return {
      ...NOTHING,
      source: draftSource(draft, wish.model),
      ...(body === null ? {} : await shown(body, wish, config, store)),
      schema: body === null ? null : jsonSchema(body, situationOf(wish)),
      takes: input === null ? null : jsonSchema(input, { audience: wish.audience }),
    };
  } catch (error) {
    return { ...NOTHING, wrong: error instanceof Error ? error.message : String(error) };
  }
};
