import type { Command } from 'commander';
import { findConfig, loadConfig } from '../config/load-config.js';
import type { AddCommand } from '../running/command.js';
import type { GlobalOptions } from '../running/with-store.js';
import { type TableOptions, table } from './table.js';

export const addTable: AddCommand = (program, screen) => {
  program
    .command('table')
    .description('which member appears at which endpoint, for whom, changed how')
    .argument('<entity>', 'the name of an entity, such as berth')
    .option('--audience <name>', 'for this audience only; default: for all, told apart')
    .option('--json', 'the table as data')
    .action(async (entity: string, options: TableOptions, command: Command) => {
      const { config } = command.optsWithGlobals<GlobalOptions>();
      table(await loadConfig(findConfig(config)), entity, options, screen);
    });
};
