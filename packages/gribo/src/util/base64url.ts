/** Text as base64url (RFC 4648, section 5), without padding. */
export const toBase64Url = (text: string): string => {
  const binary = Array.from(new TextEncoder().encode(text), (byte) => String.fromCharCode(byte)).join('');
  return btoa(binary).replaceAll('+', '-').replaceAll('/', '_').replaceAll('=', '');
};

/** The text of base64url; undefined where it is none. */
export const fromBase64Url = (encoded: string): string | undefined => {
  if (!/^[\w-]*$/.test(encoded)) return undefined;
  try {
    const binary = atob(encoded.replaceAll('-', '+').replaceAll('_', '/'));
    const bytes = Uint8Array.from(binary, (letter) => letter.charCodeAt(0));
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return undefined;
  }
};
