import type { Asked } from '../message/asked.js';
import { Problem } from '../problems/problem.js';

/** What is taken from pages of other sites. */
export interface SiteOptions {
  /**
   * What pages of other sites send that may change something: refused with 403 where `cookies` are
   * carried and an audience is decided, always (`refuse`), or never (`allow`). Default: `cookies`.
   */
  readonly otherSites?: 'refuse' | 'cookies' | 'allow';
  /** Origins whose pages are not of another site, such as `https://office.example`. Default: none. */
  readonly origins?: readonly string[];
}

/** The options with their defaults. */
export type SiteRules = Required<SiteOptions>;

/** @param isDecided whether somebody is told apart, so that cookies may say who it is */
export const siteRulesOf = ({ otherSites, origins = [] }: SiteOptions, isDecided: boolean): SiteRules => ({
  otherSites: otherSites ?? (isDecided ? 'cookies' : 'allow'),
  origins,
});

/** Methods that change nothing (RFC 9110, section 9.2.1). */
const SAFE = ['GET', 'HEAD', 'OPTIONS', 'TRACE'];

const hostOf = (url: string): string | null => {
  try {
    return new URL(url).host;
  } catch {
    return null;
  }
};

/** Whether a browser says that a page of another site sent the request. */
const isFromElsewhere = (asked: Asked, origins: readonly string[]): boolean => {
  const origin = asked.header('origin');
  if (origin !== null && origins.includes(origin)) return false;
  const site = asked.header('sec-fetch-site');
  if (site === 'cross-site' || site === 'same-site') return true;
  return (
    origin !== null && (origin === 'null' || hostOf(origin) !== (asked.header('host') ?? hostOf(asked.url)))
  );
};

/**
 * Turns away what a page of another site sends in the name of whoever looks at it: browsers add that
 * person's cookies by themselves. Programs that are no browsers say nothing of a site, and are let in.
 *
 * @throws {Problem} 403
 */
export const checkSite = (asked: Asked, { otherSites, origins }: SiteRules): void => {
  if (otherSites === 'allow' || SAFE.includes(asked.method)) return;
  if (otherSites === 'cookies' && asked.header('cookie') === null) return;
  if (!isFromElsewhere(asked, origins)) return;
  const detail =
    'A page of another site sent this request. What changes something is taken from pages of this site only.';
  throw new Problem(403, { detail });
};
