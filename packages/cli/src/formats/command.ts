import type { Command } from 'commander';
import { findConfig, loadConfig } from '../config/load-config.js';
import type { AddCommand } from '../running/command.js';
import type { GlobalOptions } from '../running/with-store.js';
import type { FormatsOptions } from './formats.js';

export const addFormats: AddCommand = (program, screen) => {
  program
    .command('formats')
    .description('what the API speaks, in order of preference')
    .option('--json', 'the list as data')
    .action(async (options: FormatsOptions, command: Command) => {
      const { formats } = await import('./formats.js');
      const { config } = command.optsWithGlobals<GlobalOptions>();
      formats(await loadConfig(findConfig(config)), options, screen);
    });
};
