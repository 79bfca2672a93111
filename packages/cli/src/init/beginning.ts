/** What a project may begin with. */
export const BEGINNINGS = ['drizzle', 'database', 'nothing'] as const;
export type Beginning = (typeof BEGINNINGS)[number];
