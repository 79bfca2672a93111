import type { AnyApi, EditionIn } from 'gribo';

/** Where callers name the edition that they ask in. */
export type EditionPlace =
  /** As the first part of the path: `/2026-05/vessels`. */
  | { readonly by: 'path' }
  /** In a header of the request. Default: `Edition`. */
  | { readonly by: 'header'; readonly header?: string }
  /** As a parameter of media types, in `Accept` and `Content-Type`: `application/json;edition=2026-05`. Default: `edition`. */
  | { readonly by: 'mediaType'; readonly parameter?: string };

/** What `serve` is told of editions. */
export interface EditionsOptions<P extends AnyApi> {
  /**
   * Where callers name the edition that they ask in, where the API has several: `{ by: 'path' }`, `{ by: 'header', header }` or
   * `{ by: 'mediaType', parameter }`. Default: `{ by: 'path' }`.
   */
  readonly editions?: EditionPlace;
  /**
   * The edition of those who name none: the `oldest` that has not ended, so that nothing changes for them; the `newest`; one by its
   * name; or `refuse` (400). Default: `oldest`.
   */
  readonly unnamed?: 'oldest' | 'newest' | 'refuse' | EditionIn<P>;
}

/** Where callers name the edition, whole. */
export interface EditionPlaceSettings {
  readonly by: EditionPlace['by'];
  /** The header's name, or the parameter's; empty for paths. */
  readonly name: string;
}

/** The options with their defaults. */
export interface EditionsSettings extends EditionPlaceSettings {
  readonly unnamed: string;
}

/**
 * Where callers name the edition that they ask in, with what is so where nothing is said.
 *
 * @param place as `serve` is told; left out: the path
 * @returns the place, and the name of the header or the parameter: empty for paths
 * @example
 * editionPlace({ by: 'header' }).name // => 'Edition'
 */
export const editionPlace = (place: EditionPlace = { by: 'path' }): EditionPlaceSettings => {
  if (place.by === 'header') return { by: place.by, name: place.header ?? 'Edition' };
  if (place.by === 'mediaType') return { by: place.by, name: place.parameter ?? 'edition' };
  return { by: place.by, name: '' };
};

export const editionsSettingsOf = (options: EditionsOptions<AnyApi>): EditionsSettings => ({
  ...editionPlace(options.editions),
  unnamed: options.unnamed ?? 'oldest',
});
