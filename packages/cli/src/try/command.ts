import { type Command, Option } from 'commander';
import { addEdition, inAskedEdition } from '../asked/asked-edition.js';
import { findConfig, loadConfig } from '../config/load-config.js';
import type { AddCommand } from '../running/command.js';
import type { GlobalOptions } from '../running/with-store.js';
import type { TryOptions } from './try-body.js';

export const addTry: AddCommand = (program, screen) => {
  addEdition(program.command('try'))
    .description('what a body would change, or what is wrong with it, under its lines')
    .argument('<endpoint>', 'its dotted name, such as vessels.create')
    .option('--body <file>', 'the JSON file; left out: standard input')
    .option('--audience <name>', 'who sends it; left out, the first whom the endpoint answers')
    .addOption(
      new Option('--as <name>', 'who sends it: a caller that the configuration names').conflicts('audience'),
    )
    .option('--json', 'the result as data')
    .action(async (endpoint: string, options: TryOptions, command: Command) => {
      const { tryBody } = await import('./try-body.js');
      const { config } = command.optsWithGlobals<GlobalOptions>();
      await tryBody(inAskedEdition(await loadConfig(findConfig(config)), options), endpoint, options, screen);
    });
};
