let allowed: boolean | null = null;

const tryGenerating = (): boolean => {
  try {
    return new Function('return true')() === true;
  } catch {
    return false;
  }
};

/** Whether code may be generated here: some platforms and content security policies forbid it. */
export const mayGenerate = (): boolean => {
  allowed ??= tryGenerating();
  return allowed;
};
