import { type Source, sourcesOf, uriOf } from '../config/sources.js';

/** Where something is declared. */
export interface Declared {
  /** The file, from the current folder, as a URI. */
  readonly uri: string;
  /** From 1. */
  readonly line: number;
}

const escaped = (text: string): string => text.replace(/[\\^$.*+?()[\]{}|]/g, '\\$&');

const lineAt = (text: string, at: number): number => text.slice(0, at).split('\n').length;

/** Comments and strings, and what opens or closes. */
const TOKEN = /\/\/.*|\/\*[\s\S]*?\*\/|(['"`])(?:\\.|(?!\1)[^\\])*\1|[()]/g;

/** Where the call ends whose parenthesis is opened at a place. */
const endOfCall = (text: string, open: number): number => {
  TOKEN.lastIndex = open;
  let depth = 0;
  for (let token = TOKEN.exec(text); token !== null; token = TOKEN.exec(text)) {
    if (token[0] === '(') depth++;
    if (token[0] === ')' && --depth === 0) return token.index;
  }
  return text.length;
};

/** Finds declarations in texts as they are usually written; what is written otherwise is not found. */
class Declarations {
  readonly #sources: readonly Source[];

  constructor(sources: readonly Source[]) {
    this.#sources = sources;
  }

  /** The column or the whole of an entity, or an endpoint; null where it is not found. */
  find(place: string): Declared | null {
    const [name = ''] = place.split('/');
    const [entity = '', member] = name.split('.');
    return this.#inEntity(entity, member) ?? this.#endpoint(name) ?? this.#endpoint(entity);
  }

  #endpoint(name: string): Declared | null {
    return this.#first(
      new RegExp(`(?:^|[\\s{,])['"]?${escaped(name)}['"]?\\s*:\\s*(?:collection|endpoint)\\(`, 'm'),
    );
  }

  #first(pattern: RegExp): Declared | null {
    for (const { uri, text } of this.#sources) {
      const found = pattern.exec(text);
      // What stands before it may be the end of the line above.
      if (found !== null) return { uri, line: lineAt(text, found.index + found[0].search(/\S/)) };
    }
    return null;
  }

  #inEntity(entity: string, column: string | undefined): Declared | null {
    const head = new RegExp(`\\bentity\\(\\s*(['"\`])${escaped(entity)}\\1`);
    for (const { uri, text } of this.#sources) {
      const found = head.exec(text);
      if (found === null) continue;
      const line = lineAt(text, found.index);
      if (column === undefined) return { uri, line };
      const body = text.slice(found.index, endOfCall(text, found.index));
      const at = new RegExp(`(?:^|[\\s{,])['"]?${escaped(column)}['"]?\\s*:`, 'm').exec(body);
      return { uri, line: at === null ? line : line + lineAt(body, at.index + at[0].search(/\S/)) - 1 };
    }
    return null;
  }
}

/**
 * Finds where places of findings are declared, in the files of a configuration.
 *
 * @param configPath where the configuration is
 * @returns a function from a place, such as `vessel.masterPhone` or `vessels.list/name`, to where it is
 * declared; the configuration's first line where it is not found
 */
export const declarationsOf = async (configPath: string): Promise<(place: string) => Declared> => {
  const declarations = new Declarations(await sourcesOf(configPath));
  const config = { uri: uriOf(configPath), line: 1 };
  return (place) => declarations.find(place) ?? config;
};
