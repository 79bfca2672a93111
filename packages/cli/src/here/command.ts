import type { Command } from 'commander';
import type { AddCommand } from '../running/command.js';
import type { GlobalOptions } from '../running/with-store.js';
import type { HereOptions } from './here.js';

export const addHere: AddCommand = (program, screen) => {
  program
    .command('here')
    .description('what this project has, and what to do next; also without a command')
    .option('--json', 'the same as data')
    .action(async (options: HereOptions, command: Command) => {
      const { here } = await import('./here.js');
      const { config } = command.optsWithGlobals<GlobalOptions>();
      await here(config, options, screen);
    });
};
