/** An audience in the words of findings; null: callers of none. */
export const saidAudience = (audience: string | null): string => audience ?? 'callers of no audience';
