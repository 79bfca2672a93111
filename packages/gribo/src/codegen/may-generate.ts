let allowed: boolean | null = null;

/** A function made from its text. */
export type Made = (...given: readonly unknown[]) => unknown;

/**
 * Makes a function of text.
 *
 * @returns null where the platform forbids it: always, or once its modules are loaded
 * @throws {SyntaxError} where the text is no function's, or what else making it may come to
 */
export const functionOf = (parameters: readonly string[], source: string): Made | null => {
  try {
    return new Function(...parameters, source) as Made;
  } catch (error) {
    // Where it was allowed before, only this says that it is not any more.
    if (allowed === true && !(error instanceof EvalError)) throw error;
    allowed = false;
    return null;
  }
};

/** Whether code may be generated here: some platforms and content security policies forbid it. */
export const mayGenerate = (): boolean => {
  allowed ??= functionOf([], '') !== null;
  return allowed;
};
