/** One file of a build: its path from the folder that is built to, and its text. */
export interface Output {
  readonly path: string;
  readonly text: string;
}

/** What can be built, in the order in which it is. */
export const PARTS = ['openapi', 'schemas', 'types', 'client', 'serializers', 'contract'] as const;

export type Part = (typeof PARTS)[number];

/** Says of a file who made it: only such files are ever removed. */
export const MADE_BY = 'Made by gribo build; changes are overwritten.';

/** JSON as it is kept in a repository. */
export const jsonText = (value: unknown): string => `${JSON.stringify(value, null, 2)}\n`;

/** An endpoint's name as part of a file's name. */
export const fileName = (name: string): string => name.replaceAll(/[^\w.+-]/g, '_');
