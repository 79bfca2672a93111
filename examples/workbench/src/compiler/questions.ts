/** What the editor asks of the compiler, about the text as it is; `at` counts characters from its start. */
export type Question =
  | { readonly kind: 'mistakes' }
  | { readonly kind: 'hover'; readonly at: number }
  | { readonly kind: 'completions'; readonly at: number };

/** Something that the compiler finds wrong, or warns of. */
export interface Mistake {
  readonly from: number;
  readonly to: number;
  readonly isError: boolean;
  readonly message: string;
}

/** What something is, in the compiler's words. */
export interface Hover {
  readonly from: number;
  readonly to: number;
  readonly type: string;
  readonly about: string;
}

/** Something that could be written here. */
export interface Completion {
  readonly label: string;
  readonly kind: string;
}

/** The answer to each kind of question. */
export interface Answers {
  readonly mistakes: readonly Mistake[];
  readonly hover: Hover | null;
  readonly completions: { readonly from: number; readonly options: readonly Completion[] } | null;
}

/** A question on its way to the compiler. */
export interface Asked {
  readonly id: number;
  readonly source: string;
  readonly question: Question;
}

/** An answer on its way back. */
export interface Answered {
  readonly id: number;
  readonly answer: Answers[keyof Answers];
}
