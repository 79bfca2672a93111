import { useCallback, useSyncExternalStore } from 'react';

/** Where one is on the board: kept in the address, so that it can be sent and gone back to. */
export type Place = Readonly<Record<string, string>>;

/** The way to an endpoint: the row and the members that were asked of another are left out. */
export const toEndpoint = (endpoint: string): Place => ({ endpoint, key: '', with: '' });

const listeners = new Set<() => void>();
const notify = (): void => {
  for (const listener of listeners) listener();
};

const subscribe = (listener: () => void): (() => void) => {
  listeners.add(listener);
  window.addEventListener('popstate', listener);
  return () => {
    listeners.delete(listener);
    window.removeEventListener('popstate', listener);
  };
};

/** The place, and a way to another: what is set to an empty text is left out. */
export const usePlace = (): readonly [Place, (change: Place, isStep?: boolean) => void] => {
  const hash = useSyncExternalStore(subscribe, () => window.location.hash);
  const place = Object.fromEntries(new URLSearchParams(hash.slice(1)));
  const go = useCallback((change: Place, isStep = false): void => {
    const next = new URLSearchParams(window.location.hash.slice(1));
    for (const [name, value] of Object.entries(change)) {
      if (value === '') next.delete(name);
      else next.set(name, value);
    }
    const address = `#${next}`;
    if (isStep) window.history.pushState(null, '', address);
    else window.history.replaceState(null, '', address);
    notify();
  }, []);
  return [place, go];
};
