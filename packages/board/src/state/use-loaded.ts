import { useEffect, useState } from 'react';

/** What is being loaded: nothing yet, a value, or why there is none. */
export type Loaded<T> =
  | { readonly state: 'loading' }
  | { readonly state: 'loaded'; readonly value: T }
  | { readonly state: 'failed'; readonly message: string };

/** Loads something anew each time the key changes; the last value stays until the next one is there. */
export const useLoaded = <T>(key: string, load: () => Promise<T>): Loaded<T> => {
  const [loaded, setLoaded] = useState<Loaded<T>>({ state: 'loading' });
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key says what is loaded
  useEffect(() => {
    let isCurrent = true;
    load().then(
      (value) => isCurrent && setLoaded({ state: 'loaded', value }),
      (error: unknown) =>
        isCurrent &&
        setLoaded({ state: 'failed', message: error instanceof Error ? error.message : String(error) }),
    );
    return () => {
      isCurrent = false;
    };
  }, [key]);
  return loaded;
};
