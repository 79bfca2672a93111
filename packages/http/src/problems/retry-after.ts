/** Seconds after which what passes is worth a try (RFC 9110, section 10.2.3). */
export const RETRY_AFTER: Readonly<Record<string, string>> = Object.freeze({ 'retry-after': '1' });
