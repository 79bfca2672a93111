const counts = new Map<string, number>();

/** Counts what a foreign party was given. */
export const counted = (party: string, many: number): void => {
  counts.set(party, (counts.get(party) ?? 0) + many);
};

/** What each party was given, a line each. */
export const countLines = (): readonly string[] =>
  [...counts].sort().map(([party, many]) => `    ${String(many).padStart(6)}  ${party}`);
