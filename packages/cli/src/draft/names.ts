export const capital = (name: string): string => name.charAt(0).toUpperCase() + name.slice(1);

const isName = (text: string): boolean => /^[\p{ID_Start}$_][\p{ID_Continue}$]*$/u.test(text);

/** A text as a string of a program, in single quotes. */
export const quoted = (text: string): string =>
  `'${JSON.stringify(text).slice(1, -1).replaceAll('\\"', '"').replaceAll("'", "\\'")}'`;

/** A member's name as it stands in an object: quoted where it has to be. */
export const key = (name: string): string => (isName(name) ? name : quoted(name));

/** What is reached by a name: `row.name`. */
export const reach = (row: string, name: string): string =>
  isName(name) ? `${row}.${name}` : `${row}[${quoted(name)}]`;
