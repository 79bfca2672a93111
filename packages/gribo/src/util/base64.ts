const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

/** The codes of the 64 letters, and of the padding. */
export const LETTER_CODES: Uint8Array = Uint8Array.from(LETTERS, (letter) => letter.charCodeAt(0));
const PADDING = 61;

/** How many characters the base64 of so many bytes has. */
export const base64Length = (bytes: number): number => Math.ceil(bytes / 3) * 4;

/** Writes bytes as base64 (RFC 4648, section 4) at a position, and returns the position after it. */
export const writeBase64 = (target: Uint8Array, source: Uint8Array, position: number): number => {
  const letter = (bits: number): number => LETTER_CODES[bits & 63] ?? 0;
  const whole = source.length - (source.length % 3);
  let p = position;
  for (let i = 0; i < whole; i += 3) {
    const bits = ((source[i] ?? 0) << 16) | ((source[i + 1] ?? 0) << 8) | (source[i + 2] ?? 0);
    target[p] = letter(bits >> 18);
    target[p + 1] = letter(bits >> 12);
    target[p + 2] = letter(bits >> 6);
    target[p + 3] = letter(bits);
    p += 4;
  }
  const left = source.length - whole;
  if (left === 0) return p;
  const bits = ((source[whole] ?? 0) << 16) | ((source[whole + 1] ?? 0) << 8);
  target[p] = letter(bits >> 18);
  target[p + 1] = letter(bits >> 12);
  target[p + 2] = left === 2 ? letter(bits >> 6) : PADDING;
  target[p + 3] = PADDING;
  return p + 4;
};

/** The base64 of bytes as a string. */
export const base64Text = (source: Uint8Array): string => {
  const target = new Uint8Array(base64Length(source.length));
  writeBase64(target, source, 0);
  return new TextDecoder('latin1').decode(target);
};
