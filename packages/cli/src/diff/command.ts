import { type Command, Option } from 'commander';
import { findConfig, loadConfig } from '../config/load-config.js';
import type { AddCommand } from '../running/command.js';
import type { GlobalOptions } from '../running/with-store.js';
import type { DiffOptions } from './diff.js';

export const addDiff: AddCommand = (program, screen) => {
  program
    .command('diff')
    .description('what a change breaks, and for whom: two contracts, or two editions, compared')
    .argument('<before>', 'what clients know: contract.json of a build, or the name of an edition')
    .argument('[after]', 'the later one; left out: the API as it is declared now')
    .option('--json', 'the differences as data')
    .addOption(
      new Option('--notes', 'what a client has to change from one edition to another, as Markdown').conflicts(
        ['json', 'markdown'],
      ),
    )
    .addOption(new Option('--markdown', 'the differences as Markdown, for a pull request').conflicts('json'))
    .action(async (before: string, after: string | undefined, options: DiffOptions, command: Command) => {
      const { diff } = await import('./diff.js');
      const { config } = command.optsWithGlobals<GlobalOptions>();
      await diff(() => loadConfig(findConfig(config)), [before, after], options, screen);
    });
};
