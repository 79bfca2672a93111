import { Option } from 'commander';
import type { AddCommand } from '../running/command.js';
import { BEGINNINGS } from './beginning.js';
import type { InitOptions } from './init.js';

export const addInit: AddCommand = (program, screen) => {
  program
    .command('init')
    .description('a model, a first API and a configuration, from what this project has')
    .addOption(new Option('--from <what>', 'what to begin with; left out: what is found').choices(BEGINNINGS))
    .option('--dry', 'print what would be written')
    .action(async (options: InitOptions) => {
      const { init } = await import('./init.js');
      await init(options, screen);
    });
};
