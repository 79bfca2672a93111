import { apiNames } from 'gribo';

/** Whom the harbour's API answers, what may be asked for, and where members differ: said before the shapes that use it. */
export const names = apiNames({
  audiences: ['public', 'agent', 'harbourMaster'],
  asks: ['operator', 'cargo'],
  endpoints: ['berths.list', 'berths.read', 'berths.options'],
});

export const { asked, at, audience, unseal } = names;
