import type { Contract } from '../../contract/contract.js';

/** Names that the generated module has for itself. */
const OWN = ['Audience', 'Responses', 'Requests', 'PathParameters', 'Queries'];

const pascal = (name: string): string => {
  const words = name.split(/[^A-Za-z\d]+/).filter((word) => word !== '');
  const joined = words.map((word) => word.charAt(0).toUpperCase() + word.slice(1)).join('');
  return /^[A-Za-z]/.test(joined) ? joined : `T${joined}`;
};

/**
 * The names that the interfaces of `typesSource` have, by those of a contract's shapes and inputs.
 *
 * @param contract what `contractOf` returns
 * @example
 * typeNames(contractOf(harbour)).get('VesselDetail.agent') // => VesselDetailAgent
 */
export const typeNames = ({ shapes, inputs }: Contract): ReadonlyMap<string, string> => {
  const taken = new Set(OWN);
  const names = new Map<string, string>();
  for (const name of [...Object.keys(inputs), ...Object.keys(shapes)]) {
    const base = pascal(name);
    let free = base;
    for (let next = 2; taken.has(free); next++) free = `${base}${next}`;
    taken.add(free);
    names.set(name, free);
  }
  return names;
};
