import { Command, CommanderError, InvalidArgumentError, Option } from 'commander';
import type { Store } from 'gribo';
import { type CheckOptions, check } from './check.js';
import type { GriboConfig } from './config.js';
import { type DraftOptions, draft } from './draft.js';
import { type FormatsOptions, formats } from './formats.js';
import { findConfig, loadConfig } from './load-config.js';
import { describeFailure } from './mistake.js';
import { play } from './play.js';
import { type ScanOptions, scanDatabase } from './scan/scan.js';
import { type Screen, terminal } from './screen.js';
import { type ShowOptions, show } from './show/show.js';
import { type TableOptions, table } from './table/table.js';
import { type TryOptions, tryBody } from './try/try-body.js';
import { watchDeclarations } from './watch.js';

interface GlobalOptions {
  readonly config?: string;
}

const wholeNumber = (text: string): number => {
  if (/^[1-9]\d{0,6}$/.test(text)) return Number(text);
  throw new InvalidArgumentError('Expected a whole number of 1 or more.');
};

const names = (text: string): string[] => text.split(',').map((name) => name.trim());

/** Opens the store when it is first asked for, and closes it if it was. */
class LazyStore {
  #opened: Promise<Store> | null = null;

  open(config: GriboConfig): Promise<Store> {
    this.#opened ??= Promise.resolve(typeof config.store === 'function' ? config.store() : config.store);
    return this.#opened;
  }

  async close(): Promise<void> {
    const store = await this.#opened;
    await store?.close?.();
  }
}

/** Runs a command that shows stored rows, once or each time a declaration is saved. */
const withStore = async (
  options: GlobalOptions & { readonly watch?: boolean },
  screen: Screen,
  use: (config: GriboConfig, openStore: () => Promise<Store>) => Promise<void>,
): Promise<void> => {
  const path = findConfig(options.config);
  const store = new LazyStore();
  const once = async (): Promise<void> => {
    const config = await loadConfig(path);
    await use(config, () => store.open(config));
  };
  try {
    if (options.watch !== true) return await once();
    // The store stays open: only what is declared is read again.
    const again = async (): Promise<void> => {
      screen.print(screen.colours.dim(`── ${new Date().toLocaleTimeString()} ${'─'.repeat(20)}`));
      await once().catch((error: unknown) =>
        screen.print(screen.colours.red(describeFailure(error).message)),
      );
    };
    await again();
    screen.print(screen.colours.dim('\nWatching the declarations; Ctrl+C ends it.'));
    await watchDeclarations(path, again);
  } finally {
    await store.close();
  }
};

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

const addScan = (program: Command, screen: Screen): void => {
  program
    .command('scan')
    .description('the model of a live database: tables, columns and links as declarations')
    .argument('<url>', 'its address: postgres://…, mysql://…, sqlite:file or pglite:folder')
    .option('--out <file>', 'where the model is written; left out: it is printed')
    .option('--start', 'write a first API and a configuration too')
    .option('--force', 'write over files that are there')
    .action(async (url: string, options: ScanOptions) => scanDatabase(url, options, screen));
};

const addCheck = (program: Command, screen: Screen): void => {
  program
    .command('check')
    .description('where the model and the database do not agree')
    .option('--json', 'the findings as data')
    .action(async (options: CheckOptions, command: Command) => {
      const global = command.optsWithGlobals<GlobalOptions>();
      await withStore(global, screen, (_config, openStore) => check(openStore, options, screen));
    });
};

const addFormats = (program: Command, screen: Screen): void => {
  program
    .command('formats')
    .description('what the API speaks, in order of preference')
    .option('--json', 'the list as data')
    .action(async (options: FormatsOptions, command: Command) => {
      const { config } = command.optsWithGlobals<GlobalOptions>();
      formats(await loadConfig(findConfig(config)), options, screen);
    });
};

/** The command's arguments, with what each does. */
const makeProgram = (screen: Screen): Command => {
  const program = new Command('gribo')
    .description('See what an API sends, and why.')
    .option('--config <file>', 'the configuration; default: the nearest gribo.config.ts')
    .exitOverride()
    .configureOutput({ outputError: (text, write) => write(text.replace(/^error: /, '')) });
  addShow(program, screen);
  addTable(program, screen);
  addTry(program, screen);
  addDraft(program, screen);
  addPlay(program, screen);
  addFormats(program, screen);
  addScan(program, screen);
  addCheck(program, screen);
  return program;
};

/**
 * Runs the command line.
 *
 * @param argv the process's arguments, program and script included
 * @returns the exit code: 0 done, 1 something was found, 2 called wrongly
 */
export const run = async (argv: readonly string[]): Promise<number> => {
  const program = makeProgram(terminal());
  try {
    await program.parseAsync([...argv]);
    return 0;
  } catch (error) {
    // Commander has said it already; asking for help is no mistake.
    if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
    const { message, exitCode } = describeFailure(error);
    process.stderr.write(`${message}\n`);
    return exitCode;
  }
};
