import type { Command } from 'commander';
import type { AddCommand } from '../running/command.js';
import { type GlobalOptions, withStore } from '../running/with-store.js';
import type { BoardOptions } from './static-board.js';

export const addBoard: AddCommand = (program, screen) => {
  program
    .command('board')
    .description('a copy of the board to hand around: a folder with a page and made data')
    .requiredOption('--out <folder>', 'where it is written')
    .action(async (options: BoardOptions, command: Command) => {
      const { staticBoard } = await import('./static-board.js');
      const { sampleStore } = await import('../config/samples-of.js');
      const global = command.optsWithGlobals<GlobalOptions>();
      await withStore(global, screen, async (config, _openStore, path) =>
        staticBoard(config, path, async () => sampleStore(config), options, screen),
      );
    });
};
