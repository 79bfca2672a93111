import { DECIMAL, UUID } from './patterns.js';

export const isText = (value: unknown): value is string => typeof value === 'string';

export const isDecimal = (value: unknown): value is string => isText(value) && DECIMAL.test(value);
export const isUuid = (value: unknown): value is string => isText(value) && UUID.test(value);
export const isBytes = (value: unknown): value is Uint8Array => value instanceof Uint8Array;
