/** How many of something there are: `1 row`, `2 rows`. */
export const counted = (count: number, what: string): string => `${count} ${what}${count === 1 ? '' : 's'}`;
