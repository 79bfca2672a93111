import { hash } from 'node:crypto';
import type { Asked } from '../message/asked.js';
import type { Identity } from '../message/identity.js';

const hashed = (told: unknown): string =>
  hash(
    'sha256',
    JSON.stringify(told, (_name, value) => (typeof value === 'bigint' ? `${value}n` : value)),
    'base64url',
  );

/**
 * A text that is the same for the same caller, and tells nothing of it: by its identity, where that is declared; otherwise by the headers
 * that tell callers apart.
 *
 * @param identity the facts that say who it is; null: none do
 */
export const callerKey = (asked: Asked, decidedBy: readonly string[], identity: Identity | null): string =>
  hashed(identity ?? decidedBy.map((name) => asked.header(name.toLowerCase())));
