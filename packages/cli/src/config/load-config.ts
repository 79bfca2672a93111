import { existsSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { Mistake } from '../screen/mistake.js';
import { notForever } from '../screen/not-forever.js';
import type { GriboConfig } from './config.js';

export const CONFIG_NAME = 'gribo.config.ts';

/** The configuration's path: the one that was named, or the nearest one above this folder. */
export const findConfig = (named: string | undefined, from: string = process.cwd()): string => {
  if (named !== undefined) {
    const path = resolve(from, named);
    if (existsSync(path)) return path;
    throw new Mistake(`There is no file ${named}.`);
  }
  for (let folder = from; ; folder = dirname(folder)) {
    const path = join(folder, CONFIG_NAME);
    if (existsSync(path)) return path;
    if (dirname(folder) === folder) break;
  }
  throw new Mistake(
    `Found no ${CONFIG_NAME} here or above. Go to its folder, or name it: --config path/to/${CONFIG_NAME}`,
  );
};

const isConfig = (value: unknown): value is GriboConfig => {
  if (typeof value !== 'object' || value === null) return false;
  const { api, store } = value as { api?: { plan?: unknown }; store?: unknown };
  return typeof api?.plan === 'object' && (typeof store === 'function' || typeof store === 'object');
};

const STUCK = 'It waits for something that never comes: look at each `await` in it.';

/** Loads the configuration as it is now on disk; no build step is needed. */
export const loadConfig = async (path: string): Promise<GriboConfig> => {
  const { createJiti } = await import('jiti');
  const jiti = createJiti(import.meta.url, { moduleCache: false, interopDefault: true });
  const shown = relative(process.cwd(), path);
  let loaded: unknown;
  try {
    loaded = await notForever(jiti.import(path, { default: true }), STUCK);
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    throw new Mistake(`${shown} could not be loaded.\n${reason}`);
  }
  if (isConfig(loaded)) return loaded;
  throw new Mistake(
    `${shown} must export { api, store } as its default: export default { api, store } satisfies GriboConfig`,
  );
};
