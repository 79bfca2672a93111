import { dialectOf } from '../dialects/dialects.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { apiSource } from './api-source.js';
import { modelSource } from './model-source.js';
import { nameModel } from './name-model.js';
import type { ScannedModel } from './scanned-model.js';

/** What was found in a database. */
export interface Scan {
  /** Entities, columns and links, as data. */
  readonly model: ScannedModel;
  /** The model as TypeScript, to be kept and edited. */
  readonly source: string;
  /** A first API over it, as TypeScript that imports the model from `./model.js`. */
  readonly api: string;
}

/**
 * Reads a live database into a model: tables, columns, types, keys, nullability, references as links
 * both ways, tables that only join two others as `through`, views as entities that are only read. What the model cannot say
 * is named in comments. What looks secret by its name comes out
 * sealed, with a comment that asks for a decision.
 *
 * @param kysely a Kysely instance of PostgreSQL, MySQL, MariaDB or SQLite
 * @param options `schemas`: the schemas that are read (on MySQL and MariaDB databases, on SQLite attached ones); left out:
 * those whose tables are found without naming one
 * @returns the model as data and as source text, and a first API; the same for the same database
 * @example
 * const { source } = await scan(kysely);
 */
export const scan = async (
  kysely: AnyKysely,
  options: { readonly schemas?: readonly string[] } = {},
): Promise<Scan> => {
  const model = nameModel(await dialectOf(kysely).readSchema(kysely, options.schemas ?? null));
  return { model, source: modelSource(model), api: apiSource(model) };
};
