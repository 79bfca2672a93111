/** An audience in words; null: callers of none. */
export const sayAudience = (audience: string | null): string => audience ?? 'callers of no audience';

/** Audiences in words, one after the other. */
export const sayAudiences = (audiences: readonly (string | null)[]): string =>
  audiences.map(sayAudience).join(', ');
