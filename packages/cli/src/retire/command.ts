import type { Command } from 'commander';
import { findConfig, loadConfig } from '../config/load-config.js';
import type { AddCommand } from '../running/command.js';
import type { GlobalOptions } from '../running/with-store.js';
import type { RetireOptions } from './retire.js';

export const addRetire: AddCommand = (program, screen) => {
  program
    .command('retire')
    .description('the lines of the source that only an edition needs that is to go')
    .argument('<edition>', 'the name of the oldest edition, such as 2025-11')
    .option('--json', 'the lines as data')
    .action(async (edition: string, options: RetireOptions, command: Command) => {
      const { retire } = await import('./retire.js');
      const { config } = command.optsWithGlobals<GlobalOptions>();
      const path = findConfig(config);
      await retire(await loadConfig(path), path, edition, options, screen);
    });
};
