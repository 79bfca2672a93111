/** One thing that was done, and what came of it: every runtime has to say the same. */
export interface Outcome {
  readonly what: string;
  readonly came: string;
}

/** Bytes as text that shows every one of them. */
export const shown = (bytes: Uint8Array): string => {
  let text = '';
  for (const byte of bytes) {
    const isPlain = byte >= 32 && byte < 127 && byte !== 92;
    text += isPlain ? String.fromCharCode(byte) : `\\x${byte.toString(16).padStart(2, '0')}`;
  }
  return text;
};
