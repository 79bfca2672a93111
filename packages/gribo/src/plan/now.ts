/** The name of the fact that everybody has: the moment of the request. */
export const NOW = 'now';
