import type { Finding } from '../../errors/declaration-error.js';

/*
 * Members are objects while a shape is declared: `v.callSign ?? v.name` is the first and `v.callSign && v.name` the
 * second, whatever a row holds, and nothing is left to be seen of it afterwards. What can be seen is the text of the
 * function, so that is where it is looked for.
 */

/** A function whose text is looked at. */
type Declare = (...values: never[]) => unknown;

const HELP =
  'members are objects here, so ??, ||, && and ? : cannot choose: use orElse(a, b) for a fallback, or given(condition, member)';

const QUOTED = /\/\*[\s\S]*?\*\/|\/\/[^\n]*|'(?:[^'\\\n]|\\.)*'|"(?:[^"\\\n]|\\.)*"/g;
/** The first parameter: a name, or what is taken out of it in braces. */
const PARAMETER = /^(?:function\b[^(]*)?\(?\s*(?:\{([^{}]*)\}|([A-Za-z_$][\w$]*))\s*[,)=]/;

const escaped = (name: string): string => name.replaceAll('$', '\\$');

/** The names that are taken out in braces: of `{ id, name: title, ...rest }` they are `id` and `title`. */
const taken = (inBraces: string): readonly string[] =>
  inBraces.split(',').flatMap((part) => /^\s*(?:[\w$]+\s*:\s*)?([A-Za-z_$][\w$]*)\s*$/.exec(part)?.[1] ?? []);

/** Whether a function within gives the name another meaning: one arrow function with that parameter may be the whole of it. */
const isGivenAgain = (source: string, name: string): boolean => {
  const parameter = new RegExp(
    `(?<![\\w$.])${escaped(name)}\\s*(?:,[^()]*)?\\)?\\s*=>|\\([^()]*(?<![\\w$.])${escaped(name)}[^()]*\\)\\s*=>`,
    'g',
  );
  const own = source.startsWith('function') ? 0 : 1;
  return (source.match(parameter) ?? []).length > own;
};

/** What stands before `??`, `||`, `&&` or `?`: a name, or one with the names after it. */
const before = (source: string, name: string, path: string): readonly string[] => {
  const chosen = new RegExp(`(?<![\\w$.])(${escaped(name)}${path})\\s*(?:\\?\\?|\\|\\||&&|\\?(?![.?]))`, 'g');
  return [...source.matchAll(chosen)].map(([, found = '']) => found.replaceAll(/\s/g, ''));
};

/** Every member that the text of a shape's or an input's function chooses by, in vain. */
export const chosenBy = (subject: string, declare: Declare): readonly Finding[] => {
  const source = Function.prototype.toString.call(declare).replaceAll(QUOTED, '""');
  const [, inBraces, row] = PARAMETER.exec(source) ?? [];
  const names = row === undefined ? taken(inBraces ?? '') : [row];
  const path = row === undefined ? '(?:\\s*\\.\\s*[\\w$]+)*' : '(?:\\s*\\.\\s*[\\w$]+)+';
  const members = names
    .filter((name) => !isGivenAgain(source, name))
    .flatMap((name) => before(source, name, path));
  return [...new Set(members)].map((member) => ({ path: subject, message: `${member}: ${HELP}` }));
};
