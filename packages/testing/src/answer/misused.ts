import { GriboError } from 'gribo';

/** A test that asks what cannot be. */
export const misused = (path: string, message: string): GriboError => new GriboError('MISUSE', path, message);
