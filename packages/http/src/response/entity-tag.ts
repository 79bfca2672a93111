import { hash } from 'node:crypto';

/** A strong entity tag (RFC 9110, section 8.8.3): the same for the same bytes only. */
export const entityTag = (content: string | Uint8Array): string => `"${hash('sha1', content, 'base64url')}"`;
