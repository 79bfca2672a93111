import { isNever, type RowLine, sayCondition } from 'gribo/kit';

/** Which rows of an entity callers see and change, in words, with all for whom it is so. */
export interface RowWords {
  readonly entity: string;
  /** Null among them: callers of no audience. */
  readonly audiences: readonly (string | null)[];
  readonly sees: string;
  readonly changes: string;
}

/** A condition in words: `all` where it leaves all rows, `none` where it leaves none. */
export const rowsWhere = (condition: RowLine['see']): string => {
  if (condition === null) return 'all';
  return isNever(condition) ? 'none' : sayCondition(condition);
};

/** What row rules say, each thing once: entities in their order, audiences that it is the same for together. */
export const rowWords = (lines: readonly RowLine[]): readonly RowWords[] => {
  const found = new Map<string, RowWords & { readonly audiences: (string | null)[] }>();
  for (const { entity, audience, see, change, isRuled } of lines) {
    if (!isRuled) continue;
    const [sees, changes] = [rowsWhere(see), rowsWhere(change)];
    const key = JSON.stringify([entity, sees, changes]);
    const known = found.get(key) ?? { entity, audiences: [], sees, changes };
    found.set(key, known);
    known.audiences.push(audience);
  }
  return [...found.values()];
};

/** The entities whose rows no rule is about. */
export const everybodys = (lines: readonly RowLine[]): readonly string[] => [
  ...new Set(lines.filter(({ isRuled }) => !isRuled).map(({ entity }) => entity)),
];
