/** The names of audiences; callers of none are told where they are left out or alone. */
export const audienceWords = (audiences: readonly (string | null)[], all: readonly string[]): string => {
  const names = audiences.filter((name) => name !== null);
  const isAll = all.every((name) => names.includes(name));
  if (isAll && audiences.includes(null)) return 'everybody';
  if (names.length === 0) return 'callers of no audience';
  return names.join(', ');
};
