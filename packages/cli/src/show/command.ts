import { type Command, Option } from 'commander';
import { addEdition } from '../asked/asked-edition.js';
import { names, wholeNumber } from '../running/arguments.js';
import type { AddCommand } from '../running/command.js';
import { type GlobalOptions, withStore } from '../running/with-store.js';
import type { ShowOptions } from './show.js';

export const addShow: AddCommand = (program, screen) => {
  addEdition(program.command('show'))
    .description('what an endpoint sends, for rows of the store')
    .argument('<endpoint>', 'its dotted name, such as vessels.read')
    .option('--id <key>', 'the row with this key; several key columns are separated by commas')
    .addOption(new Option('--limit <rows>', 'how many rows of a list').argParser(wholeNumber).default(3))
    .option('--under <key>', 'of a child collection: the key of the parent')
    .option('--audience <name>', 'whom the response is for')
    .addOption(
      new Option('--as <name>', 'who asks: a caller that the configuration names').conflicts('audience'),
    )
    .addOption(new Option('--with <names>', 'what the caller asks for, separated by commas').argParser(names))
    .addOption(new Option('--fields <paths>', 'the only members the caller wants').argParser(names))
    .option('--json', 'only the response, as it is sent')
    .option('--sql', 'the statements that the store runs for it, with their times')
    .option('--weigh', 'how many bytes each member has, instead of the response')
    .option('--beside', 'the stored row next to the response, member by member')
    .addOption(
      new Option('--engine <name>', 'the writer to use')
        .choices(['auto', 'generated', 'interpreted'])
        .default('auto'),
    )
    .option('--watch', 'show it again each time a declaration is saved')
    .action(async (endpoint: string, options: ShowOptions & { watch?: boolean }, command: Command) => {
      const { show } = await import('./show.js');
      const all = { ...command.optsWithGlobals<GlobalOptions>(), ...options };
      await withStore(all, screen, (config, openStore) => show(config, openStore, endpoint, options, screen));
    });
};
