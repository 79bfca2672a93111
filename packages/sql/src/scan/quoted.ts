/** A text as a string of TypeScript, whatever it holds. */
export const quoted = (text: string): string =>
  `'${JSON.stringify(text).slice(1, -1).replaceAll('\\"', '"').replaceAll("'", "\\'")}'`;
