import { pickAudience } from '../asked/situation.js';
import type { GriboConfig } from '../config/config.js';

/** Those whom a table tells apart, null standing for callers of no audience, and who they are in words. */
export interface ToldApart {
  readonly whom: readonly (string | null)[];
  readonly words: string;
}

/** The audience that is named, or all that the API has. */
export const toldApart = (config: GriboConfig, named: string | undefined): ToldApart => {
  const audience = pickAudience(config, named);
  if (audience !== null) return { whom: [audience], words: audience };
  const { audiences } = config.api.plan;
  return audiences.length === 0
    ? { whom: [null], words: 'everybody' }
    : { whom: audiences, words: `all audiences: ${audiences.join(', ')}` };
};
