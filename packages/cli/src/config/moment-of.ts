import { clock } from 'gribo/kit';
import type { GriboConfig } from './config.js';

/** The moment that commands go by: that of the configuration, or this one. */
export const momentOf = ({ now = clock }: Pick<GriboConfig, 'now'>): Date => now();
