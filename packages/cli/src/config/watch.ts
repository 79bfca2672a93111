import { once } from 'node:events';
import { dirname, relative } from 'node:path';
import { watch } from 'chokidar';

/** Long enough for an editor to have written all it saves at once. */
const SETTLE = 80;

const isSource = (path: string): boolean => /\.(?:[cm]?[jt]s|json)$/.test(path);

/** Folders below the configuration that hold no declarations. */
const isElsewhere = (path: string): boolean =>
  /(?:^|[\\/])(?:node_modules|dist|\.[^\\/.][^\\/]*)(?:[\\/]|$)/.test(path);

/**
 * Calls back each time a declaration beside the configuration is saved, until the program is ended.
 *
 * @param watching called as soon as nothing that is saved is missed any more
 */
export const watchDeclarations = async (
  config: string,
  { watching, changed }: { readonly watching: () => void; readonly changed: () => Promise<void> },
): Promise<void> => {
  const root = dirname(config);
  const watcher = watch(root, {
    ignoreInitial: true,
    ignored: (path, stats) =>
      isElsewhere(relative(root, path)) || (stats?.isFile() === true && !isSource(path)),
  });
  let timer: NodeJS.Timeout | undefined;
  let running = Promise.resolve();
  watcher.on('all', () => {
    clearTimeout(timer);
    timer = setTimeout(() => {
      running = running.then(changed);
    }, SETTLE);
  });
  const ended = new Promise<void>((resolve) => {
    process.once('SIGINT', resolve);
    process.once('SIGTERM', resolve);
  });
  await Promise.race([ended, once(watcher, 'ready')]);
  watching();
  await ended;
  clearTimeout(timer);
  await watcher.close();
  await running;
};
