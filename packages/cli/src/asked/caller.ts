import type { CallerGiven } from 'gribo';
import { didYouMean } from 'gribo/kit';
import type { GriboConfig } from '../config/config.js';
import { momentOf } from '../config/moment-of.js';
import { Mistake } from '../screen/mistake.js';

/** The options that say who asks. */
export interface CallerOptions {
  /** A caller of the configuration, by its name. */
  readonly as?: string;
  readonly audience?: string;
}

/** Who asks, and when. */
export interface Asking {
  readonly caller: CallerGiven & { readonly audience: string | null };
  readonly now: Date;
}

const named = ({ callers = {} }: GriboConfig, name: string): CallerGiven => {
  const caller = Object.hasOwn(callers, name) ? callers[name] : undefined;
  if (caller !== undefined) return caller;
  const names = Object.keys(callers);
  const close = didYouMean(name, names);
  const all =
    names.length === 0 ? ' The configuration names none: callers.' : ` There are: ${names.join(', ')}.`;
  throw new Mistake(`There is no caller "${name}".${close === '' ? all : close}`);
};

/** Who asks: a caller by name, or the first one that the configuration names of an audience. */
export const askingAs = (config: GriboConfig, { as, audience }: CallerOptions): Asking => {
  const now = momentOf(config);
  if (as !== undefined) {
    const caller = named(config, as);
    return { caller: { ...caller, audience: caller.audience ?? null }, now };
  }
  const ofAudience = Object.values(config.callers ?? {}).find((caller) => caller.audience === audience);
  const known = audience === undefined ? {} : (ofAudience ?? {});
  return { caller: { ...known, audience: audience ?? null }, now };
};
