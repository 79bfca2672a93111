/** An edition with its last day, where it has one: `2025-11 (until 2026-12-31)`. */
export const sunsetWords = (name: string, sunset: string | null): string =>
  sunset === null ? name : `${name} (until ${sunset})`;
