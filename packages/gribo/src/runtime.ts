/*
 * What stand-alone serializers call. `gribo build` bundles it into them; nothing here is meant to be
 * called by hand.
 */
export { firstThere } from './plan/first-there.js';
export { compares } from './values/compares.js';
export { lookAtFigure } from './values/figures.js';
export { pickRows } from './values/pick-rows.js';
export * from './write/generated/runtime.js';
export { type StandAlone, standAlone } from './write/modules/stand-alone.js';
