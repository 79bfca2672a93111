import type { Command } from 'commander';
import type { AddCommand } from '../running/command.js';
import { type GlobalOptions, withStore } from '../running/with-store.js';

export const addPlay: AddCommand = (program, screen) => {
  program
    .command('play')
    .description('a prompt with the API, its shapes, writers and stored rows at hand')
    .action(async (_options: object, command: Command) => {
      const { play } = await import('./play.js');
      const global = command.optsWithGlobals<GlobalOptions>();
      await withStore(global, screen, (config, openStore) => play(config, openStore, screen));
    });
};
