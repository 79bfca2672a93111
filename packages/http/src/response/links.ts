import type { WantedPage } from 'gribo';
import { type DeprecationNotice, isReference } from 'gribo/kit';

/** Where a page stands among the others. */
export interface PagePlace {
  readonly path: string;
  /** The query of the request, without its question mark. */
  readonly query: string;
  readonly wanted: WantedPage;
  readonly pages: number | null;
  /** The cursor of the next page. */
  readonly next: string | null;
  readonly hasMore: boolean;
}

const withParameter = (query: string, name: string, value: string): string => {
  const parts = query.split('&').filter((part) => part !== '' && part.split('=')[0] !== name);
  return [...parts, `${name}=${encodeURIComponent(value)}`].join('&');
};

const link = (place: PagePlace, name: string, value: string, relation: string): string =>
  `<${place.path}?${withParameter(place.query, name, value)}>; rel="${relation}"`;

/** Links to the pages around (RFC 8288), as far as they are known. */
export const pageLinks = (place: PagePlace): readonly string[] => {
  const { wanted, pages, next, hasMore } = place;
  if (next !== null) return [link(place, 'after', next, 'next')];
  const { number } = wanted;
  const found: string[] = [];
  const add = (page: number, relation: string): void => {
    found.push(link(place, 'page', String(page), relation));
  };
  if (wanted.after !== null) return found;
  if (number > 1) {
    add(1, 'first');
    add(pages === null ? number - 1 : Math.min(number - 1, pages), 'prev');
  }
  if (hasMore) add(number + 1, 'next');
  if (pages !== null && pages > 1) add(pages, 'last');
  return found;
};

const startOf = (day: string): number => new Date(`${day}T00:00:00Z`).getTime() / 1000;
const endOf = (day: string): string => new Date(`${day}T23:59:59Z`).toUTCString();

/** What no URI has in it is escaped (RFC 3986, section 2.1); what is escaped already stays so. */
const escaped = (reference: string): string =>
  reference.replace(/[^\x21-\x7e]+|[<>"]/gu, (part) => encodeURIComponent(part));

/** What says that an endpoint will go: `Deprecation` (RFC 9745), `Sunset` (RFC 8594), and what to use instead. */
export const noticeHeaders = (
  notice: DeprecationNotice | null,
): { readonly headers: Readonly<Record<string, string>>; readonly links: readonly string[] } => {
  if (notice === null) return { headers: {}, links: [] };
  const { since, sunset, instead } = notice;
  return {
    headers: {
      ...(since === null ? {} : { deprecation: `@${startOf(since)}` }),
      ...(sunset === null ? {} : { sunset: endOf(sunset) }),
    },
    links: instead !== null && isReference(instead) ? [`<${escaped(instead)}>; rel="successor-version"`] : [],
  };
};
