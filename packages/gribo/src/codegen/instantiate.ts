import { functionOf } from './may-generate.js';

/**
 * Makes the function of a generated program. The helpers and constants are its only way to the
 * outside: helpers under their own names, constants as `k0`, `k1`, …
 *
 * @returns what the program returns; null where the platform forbids such code, now if not before
 */
export const instantiate = (
  source: string,
  helpers: Readonly<Record<string, unknown>>,
  constants: readonly unknown[],
): unknown => {
  const names = Object.keys(helpers);
  const parameters = [...names, ...constants.map((_constant, index) => `k${index}`)];
  const make = functionOf(parameters, `"use strict";\n${source}`);
  return make === null ? null : make(...Object.values(helpers), ...constants);
};
