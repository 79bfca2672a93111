/** How a cell of the table is painted. */
export type CellKind = 'sent' | 'converted' | 'made' | 'conditional' | 'unsealed' | 'absent';

const MADE = ['computed', 'constant', 'object', 'list'];

/** What the words of a cell say: `shorten, not null` is conditional. */
export const cellKind = (words: string): CellKind => {
  if (words === '') return 'absent';
  if (words.startsWith('unsealed')) return 'unsealed';
  if (words.includes(',')) return 'conditional';
  // What comes from behind a link says from where.
  if (words === 'sent' || words.includes('.')) return 'sent';
  return MADE.includes(words) ? 'made' : 'converted';
};

export const KIND_WORDS: Readonly<Record<CellKind, string>> = {
  sent: 'as it is',
  converted: 'converted',
  made: 'computed or nested',
  conditional: 'for some rows, or when asked',
  unsealed: 'sealed, and sent',
  absent: 'absent',
};
