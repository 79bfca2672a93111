import type { ValueNode } from '../plan/condition.js';
import type { ResolvedField, ResolvedNode, ResolvedShape } from '../plan/resolved.js';
import { freeze } from '../util/freeze.js';

/** A dotted path that leads nowhere: the part that is not known, and the names that are, there. */
export interface UnknownPath {
  readonly path: string;
  readonly part: string;
  readonly known: readonly string[];
}

/** What is wanted of one member: all of it, or the paths below it. */
interface Wanted {
  whole: boolean;
  readonly below: string[];
}

/** The wanted members of one level, by name. */
const split = (paths: readonly string[]): ReadonlyMap<string, Wanted> => {
  const wanted = new Map<string, Wanted>();
  for (const path of paths) {
    const dot = path.indexOf('.');
    const name = dot === -1 ? path : path.slice(0, dot);
    const member = wanted.get(name) ?? { whole: false, below: [] };
    if (dot === -1) member.whole = true;
    else member.below.push(path.slice(dot + 1));
    wanted.set(name, member);
  }
  return wanted;
};

/** Keeps the wanted members of a resolved shape, and gathers the paths that lead nowhere. */
class Picker {
  readonly unknown: UnknownPath[] = [];

  shape(shape: ResolvedShape, paths: readonly string[], above: string): ResolvedShape {
    return freeze({ ...shape, fields: this.#fields(shape.fields, paths, above) });
  }

  #fields(
    fields: readonly ResolvedField[],
    paths: readonly string[],
    above: string,
  ): readonly ResolvedField[] {
    const wanted = split(paths);
    const known = fields.map((field) => field.name);
    for (const name of wanted.keys()) {
      if (!known.includes(name)) this.unknown.push({ path: above + name, part: name, known });
    }
    return freeze(fields.flatMap((field) => this.#field(field, wanted.get(field.name), above)));
  }

  #field(field: ResolvedField, wanted: Wanted | undefined, above: string): ResolvedField[] {
    if (wanted === undefined) return [];
    const { whole, below } = wanted;
    // Also where all of it is wanted: a path below that leads nowhere is told.
    const node = below.length === 0 ? field.node : this.#node(field.node, below, `${above}${field.name}.`);
    return [whole ? field : freeze({ ...field, node })];
  }

  #node(node: ResolvedNode, paths: readonly string[], above: string): ResolvedNode {
    switch (node.kind) {
      case 'group':
        return freeze({ ...node, fields: this.#fields(node.fields, paths, above) });
      case 'nested':
      case 'nestedList':
      case 'first':
        return freeze({ ...node, shape: this.shape(node.shape, paths, above) });
      default:
        for (const part of paths) this.unknown.push({ path: above + part, part, known: [] });
        return node satisfies ValueNode;
    }
  }
}

/** The shape with the wanted members only, and the paths that lead nowhere in it. */
export const pickFields = (
  shape: ResolvedShape,
  paths: readonly string[],
): { readonly shape: ResolvedShape; readonly unknown: readonly UnknownPath[] } => {
  const picker = new Picker();
  const picked = picker.shape(shape, paths, '');
  return { shape: picked, unknown: picker.unknown };
};
