import type { BoardModelEntity, DraftMember, DraftTaken } from '@gribo/cli';

/** What is wished for of one column or link, by its dotted way: `operator.name`. */
export interface Choice {
  /** How a link is taken: its rows nested, its members among those of the row, or their number. */
  readonly how: 'column' | 'nest' | 'flat' | 'count';
  readonly name: string;
  readonly audiences: readonly string[];
  readonly endpoints: readonly string[];
}

export type Choices = Readonly<Record<string, Choice>>;
/** Columns that requests set, by name; true: they may be left out. */
export type Taken = Readonly<Record<string, boolean>>;

/** A line to choose from. */
export interface DraftLine {
  readonly way: string;
  readonly label: string;
  readonly depth: number;
  readonly kind: string;
  readonly sealed: string | null;
  /** Null: it is a column. */
  readonly link: { readonly isMany: boolean } | null;
}

const DEEPEST = 3;

/** The columns and links of an entity, and of the links that are taken with their members. */
export const draftLines = (
  model: readonly BoardModelEntity[],
  entity: string,
  choices: Choices,
  above = '',
  depth = 0,
): readonly DraftLine[] => {
  const found = model.find(({ name }) => name === entity);
  if (found === undefined || depth > DEEPEST) return [];
  const columns = found.columns.map(
    ({ name, kind, sealed }): DraftLine => ({
      way: above + name,
      label: name,
      depth,
      kind,
      sealed,
      link: null,
    }),
  );
  const links = found.links.flatMap(({ name, target, isMany }): readonly DraftLine[] => {
    const way = above + name;
    const line = {
      way,
      label: name,
      depth,
      kind: isMany ? `${target} rows` : target,
      sealed: null,
      link: { isMany },
    };
    const how = choices[way]?.how;
    if (how !== 'nest' && how !== 'flat') return [line];
    return [line, ...draftLines(model, target, choices, `${way}.`, depth + 1)];
  });
  return [...columns, ...links];
};

/** A text with a capital at its start. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** What a member is called until somebody calls it otherwise: members of a flat link have its name before their own. */
export const nameAt = (choices: Choices, way: string): string => {
  const parts = way.split('.');
  const own = parts.at(-1) ?? '';
  const above = parts.slice(0, -1).join('.');
  return choices[above]?.how === 'flat' ? `${parts.at(-2) ?? ''}${capital(own)}` : own;
};

/** The members that are wished for below a way. */
export const membersOf = (
  model: readonly BoardModelEntity[],
  entity: string,
  choices: Choices,
  above = '',
): readonly DraftMember[] => {
  const found = model.find(({ name }) => name === entity);
  if (found === undefined) return [];
  const columns = found.columns.flatMap(({ name }): readonly DraftMember[] => {
    const choice = choices[above + name];
    return choice === undefined ? [] : [{ ...choice, kind: 'column', column: name }];
  });
  const links = found.links.flatMap(({ name, target }): readonly DraftMember[] => {
    const choice = choices[above + name];
    if (choice === undefined || choice.how === 'column') return [];
    if (choice.how === 'count') return [{ ...choice, kind: 'count', link: name }];
    const members = membersOf(model, target, choices, `${above}${name}.`);
    if (members.length === 0) return [];
    return [
      choice.how === 'flat'
        ? { kind: 'flat', link: name, members }
        : { ...choice, kind: 'nest', link: name, members },
    ];
  });
  return [...columns, ...links];
};

export const takenOf = (taken: Taken): readonly DraftTaken[] =>
  Object.entries(taken).map(([column, isOptional]) => ({ column, isOptional }));
