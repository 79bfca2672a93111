import type { EndpointPlan } from 'gribo/kit';
import { Problem } from '../problems/problem.js';

/** What a path leads to: the methods that are there, and the values of its parameters. */
export interface Place {
  readonly methods: ReadonlyMap<string, EndpointPlan>;
  readonly values: readonly string[];
}

/** One part of a path: what follows by its text, and what follows whatever the text is. */
interface Branch {
  readonly named: Map<string, Branch>;
  any: Branch | null;
  readonly methods: Map<string, EndpointPlan>;
}

const branch = (): Branch => ({ named: new Map(), any: null, methods: new Map() });

const partsOf = (path: string): string[] => path.split('/').slice(1);

const decoded = (part: string): string => {
  if (!part.includes('%')) return part;
  try {
    return decodeURIComponent(part);
  } catch {
    throw new Problem(400, { detail: 'The path has an escape that is none.' });
  }
};

/** Finds endpoints by path. A part that is named goes before a parameter: `/berths/options` before `/berths/{id}`. */
export class Routes {
  readonly #root = branch();

  constructor(endpoints: readonly EndpointPlan[]) {
    for (const endpoint of endpoints) this.#add(endpoint);
  }

  /** What is at a path; null where nothing is. */
  find(path: string): Place | null {
    const values: string[] = [];
    const found = this.#walk(this.#root, partsOf(path), 0, values);
    return found === null ? null : { methods: found.methods, values };
  }

  #add(endpoint: EndpointPlan): void {
    let at = this.#root;
    for (const part of partsOf(endpoint.path)) {
      if (part.startsWith('{') && part.endsWith('}')) {
        at.any ??= branch();
        at = at.any;
        continue;
      }
      const next = at.named.get(part) ?? branch();
      at.named.set(part, next);
      at = next;
    }
    at.methods.set(endpoint.method, endpoint);
  }

  #walk(at: Branch, parts: readonly string[], index: number, values: string[]): Branch | null {
    const part = parts[index];
    if (part === undefined) return at.methods.size > 0 ? at : null;
    const text = decoded(part);
    const named = at.named.get(text);
    if (named !== undefined) {
      const found = this.#walk(named, parts, index + 1, values);
      if (found !== null) return found;
    }
    if (at.any === null || text === '') return null;
    values.push(text);
    const found = this.#walk(at.any, parts, index + 1, values);
    if (found === null) values.pop();
    return found;
  }
}

/** The methods of a place, with those that are answered everywhere. */
export const allowedMethods = ({ methods }: Place): string =>
  [...methods.keys(), ...(methods.has('GET') ? ['HEAD'] : []), 'OPTIONS'].join(', ');

/** A path with its parameters filled in. */
export const filledPath = (path: string, parameters: Readonly<Record<string, string>>): string =>
  path.replace(/\{([^}]*)\}/g, (_whole, name: string) => encodeURIComponent(parameters[name] ?? ''));
