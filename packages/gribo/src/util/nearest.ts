/** How many single-letter edits lead from one word to the other (a swap of neighbours counts as one). */
const distance = (a: string, b: string): number => {
  let before: number[] = [];
  let last = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1];
      let best = Math.min((last[j] ?? 0) + 1, (row[j - 1] ?? 0) + 1, (last[j - 1] ?? 0) + (same ? 0 : 1));
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) {
        best = Math.min(best, (before[j - 2] ?? 0) + 1);
      }
      row.push(best);
    }
    before = last;
    last = row;
  }
  return last[b.length] ?? 0;
};

/** How far two names are apart: one that is part of the other counts as two edits at the most. */
const apart = (a: string, b: string): number => {
  const shorter = Math.min(a.length, b.length);
  const edits = distance(a, b);
  return shorter > 2 && (a.includes(b) || b.includes(a)) ? Math.min(edits, 2) : edits;
};

/** The known names closest to a wrong one; empty where none is close. */
export const nearest = (wrong: string, known: Iterable<string>, most = 3): string[] => {
  const word = wrong.slice(0, 64).toLowerCase();
  const scored = Array.from(known, (name) => [name, apart(word, name.slice(0, 64).toLowerCase())] as const);
  const best = Math.min(...scored.map(([, edits]) => edits));
  if (best > Math.max(1, word.length / 2.5)) return [];
  return scored
    .filter(([, edits]) => edits === best)
    .map(([name]) => name)
    .slice(0, most);
};

/** ` Did you mean "name"?` with the names closest to a wrong one, or nothing. */
export const didYouMean = (wrong: string, known: Iterable<string>): string => {
  const close = nearest(wrong, known);
  return close.length === 0 ? '' : ` Did you mean ${close.map((name) => `"${name}"`).join(' or ')}?`;
};
