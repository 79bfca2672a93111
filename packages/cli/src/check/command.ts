import type { Command } from 'commander';
import type { AddCommand } from '../running/command.js';
import { type GlobalOptions, withStore } from '../running/with-store.js';
import type { CheckOptions } from './check.js';

export const addCheck: AddCommand = (program, screen) => {
  program
    .command('check')
    .description('what is risky or undecided in the API, and where model and database do not agree')
    .option('--no-drift', 'do not open the store to compare the model with the database')
    .option('--json', 'the findings as data')
    .option('--sarif', 'the findings as SARIF 2.1.0')
    .action(async (options: CheckOptions, command: Command) => {
      const { check } = await import('./check.js');
      const global = command.optsWithGlobals<GlobalOptions>();
      await withStore(global, screen, (config, openStore, path) =>
        check(config, path, openStore, options, screen),
      );
    });
};
