import type { Store } from 'gribo';
import { clock } from 'gribo/kit';
import { type EditionOptions, inAskedEdition } from '../asked/asked-edition.js';
import type { GriboConfig } from '../config/config.js';
import { findConfig, loadConfig } from '../config/load-config.js';
import { watchDeclarations } from '../config/watch.js';
import { describeFailure } from '../screen/mistake.js';
import type { Screen } from '../screen/screen.js';

/** The options of every command. */
export interface GlobalOptions {
  readonly config?: string;
}

/** Opens the store when it is first asked for, and closes it if it was. */
class LazyStore {
  #opened: Promise<Store> | null = null;

  open(config: GriboConfig): Promise<Store> {
    this.#opened ??= Promise.resolve(typeof config.store === 'function' ? config.store() : config.store);
    return this.#opened;
  }

  async close(): Promise<void> {
    const store = await this.#opened;
    await store?.close?.();
  }
}

/** Runs a command that shows stored rows, once or each time a declaration is saved. */
export const withStore = async (
  options: GlobalOptions & EditionOptions & { readonly watch?: boolean },
  screen: Screen,
  use: (config: GriboConfig, openStore: () => Promise<Store>, path: string) => Promise<void>,
): Promise<void> => {
  const path = findConfig(options.config);
  const store = new LazyStore();
  const once = async (): Promise<void> => {
    const config = inAskedEdition(await loadConfig(path), options);
    await use(config, () => store.open(config), path);
  };
  try {
    if (options.watch !== true) return await once();
    // The store stays open: only what is declared is read again.
    const again = async (): Promise<void> => {
      screen.print(screen.colours.dim(`── ${clock().toLocaleTimeString()} ${'─'.repeat(20)}`));
      await once().catch((error: unknown) =>
        screen.print(screen.colours.red(describeFailure(error).message)),
      );
    };
    await again();
    await watchDeclarations(path, {
      watching: () => screen.print(screen.colours.dim('\nWatching the declarations; Ctrl+C ends it.')),
      changed: again,
    });
  } finally {
    await store.close();
  }
};
