import type { Way } from 'gribo/kit';

/** How a cell of the table is painted. */
export type CellKind = 'sent' | 'converted' | 'made' | 'conditional' | 'unsealed' | 'absent';

/** How the ways of a member are painted: what is sealed stands out, then what depends on something. */
export const cellKind = (ways: readonly Way[]): CellKind => {
  const [way] = ways;
  if (way === undefined) return 'absent';
  if (ways.some(({ how }) => how.kind === 'unsealed')) return 'unsealed';
  if (ways.some(({ when, whom }) => when !== null || whom !== null)) return 'conditional';
  if (way.how.kind === 'sent' || way.how.kind === 'linked') return 'sent';
  return way.how.kind === 'converted' ? 'converted' : 'made';
};

export const KIND_WORDS: Readonly<Record<CellKind, string>> = {
  sent: 'as it is',
  converted: 'converted',
  made: 'computed or nested',
  conditional: 'for some rows, or when asked',
  unsealed: 'sealed, and sent',
  absent: 'absent',
};
