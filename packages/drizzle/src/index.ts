/**
 * Tables of Drizzle as a model, and a store on its connection.
 *
 * @module @gribo/drizzle
 */
export { type ModelFromOptions, modelFrom } from './model/model-from.js';
export type { Over, Schema, TypesOf } from './model/model-types.js';
export { type AnyDrizzle, drizzleStore } from './store/drizzle-store.js';
