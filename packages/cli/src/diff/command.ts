import type { Command } from 'commander';
import { findConfig, loadConfig } from '../config/load-config.js';
import type { AddCommand } from '../running/command.js';
import type { GlobalOptions } from '../running/with-store.js';
import type { DiffOptions } from './diff.js';

export const addDiff: AddCommand = (program, screen) => {
  program
    .command('diff')
    .description('what a change breaks, and for whom: two contracts compared')
    .argument('<before>', 'the contract that clients know: contract.json of a build')
    .argument('[after]', 'the later contract; left out: the API as it is declared now')
    .option('--json', 'the differences as data')
    .option('--markdown', 'the differences as Markdown, for a pull request')
    .action(async (before: string, after: string | undefined, options: DiffOptions, command: Command) => {
      const { diff } = await import('./diff.js');
      const { config } = command.optsWithGlobals<GlobalOptions>();
      await diff(() => loadConfig(findConfig(config)), [before, after], options, screen);
    });
};
