/** Whether a text is a path or a URL, and not a sentence about what to use. */
export const isReference = (text: string): boolean => /^(?:\/|https?:\/\/)\S*$/.test(text);
