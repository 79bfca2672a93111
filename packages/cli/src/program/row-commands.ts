import { type Command, Option } from 'commander';
import { type DraftOptions, draft } from '../draft.js';
import { findConfig, loadConfig } from '../load-config.js';
import { play } from '../play.js';
import type { Screen } from '../screen.js';
import { type ShowOptions, show } from '../show/show.js';
import { type TableOptions, table } from '../table/table.js';
import { type TryOptions, tryBody } from '../try/try-body.js';
import { names, wholeNumber } from './arguments.js';
import { type GlobalOptions, withStore } from './with-store.js';

const addShow = (program: Command, screen: Screen): void => {
  program
    .command('show')
    .description('what an endpoint sends, for rows of the store')
    .argument('<endpoint>', 'its dotted name, such as vessels.read')
    .option('--id <key>', 'the row with this key; several key columns are separated by commas')
    .addOption(new Option('--limit <rows>', 'how many rows of a list').argParser(wholeNumber).default(3))
    .option('--under <key>', 'of a child collection: the key of the parent')
    .option('--audience <name>', 'whom the response is for')
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
      const all = { ...command.optsWithGlobals<GlobalOptions>(), ...options };
      await withStore(all, screen, (config, openStore) => show(config, openStore, endpoint, options, screen));
    });
};

const addTable = (program: Command, screen: Screen): void => {
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

const addTry = (program: Command, screen: Screen): void => {
  program
    .command('try')
    .description('what a body would change, or what is wrong with it, under its lines')
    .argument('<endpoint>', 'its dotted name, such as vessels.create')
    .option('--body <file>', 'the JSON file; left out: standard input')
    .option('--json', 'the result as data')
    .action(async (endpoint: string, options: TryOptions, command: Command) => {
      const { config } = command.optsWithGlobals<GlobalOptions>();
      await tryBody(await loadConfig(findConfig(config)), endpoint, options, screen);
    });
};

const addDraft = (program: Command, screen: Screen): void => {
  program
    .command('draft')
    .description('a starter shape and input, every column listed to be kept or deleted')
    .argument('<entity>', 'the name of an entity, such as vessel')
    .option('--model <path>', 'where the module with the model is, as it is imported', './model.js')
    .action(async (entity: string, options: DraftOptions, command: Command) => {
      const { config } = command.optsWithGlobals<GlobalOptions>();
      draft(await loadConfig(findConfig(config)), entity, options, screen);
    });
};

const addPlay = (program: Command, screen: Screen): void => {
  program
    .command('play')
    .description('a prompt with the API, its shapes, writers and stored rows at hand')
    .action(async (_options: object, command: Command) => {
      const global = command.optsWithGlobals<GlobalOptions>();
      await withStore(global, screen, (config, openStore) => play(config, openStore, screen));
    });
};

/** The commands that show what endpoints do with rows. */
export const addRowCommands = (program: Command, screen: Screen): void => {
  addShow(program, screen);
  addTable(program, screen);
  addTry(program, screen);
  addDraft(program, screen);
  addPlay(program, screen);
};
