import { apiNames } from 'gribo';

/** Whom the harbour's API answers, what may be asked for, where members differ, and in which editions: said before the shapes that use it. */
export const names = apiNames({
  audiences: ['public', 'agent', 'harbourMaster'],
  asks: ['operator', 'cargo'],
  endpoints: ['berths.list', 'berths.read', 'berths.options'],
  editions: ['2025-11', '2026-02', '2026-05'],
});

export const { asked, at, audience, editionBefore, editionFrom, unseal } = names;
