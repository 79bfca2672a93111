import { type Command, Option } from 'commander';
import { type BoardOptions, staticBoard } from '../board/static-board.js';
import { type BuildOptions, buildOutputs } from '../build/build.js';
import { PARTS } from '../build/output.js';
import { type FormatsOptions, formats } from '../formats.js';
import { findConfig, loadConfig } from '../load-config.js';
import { type CheckOptions, check } from '../review/check.js';
import { type DiffOptions, diff } from '../review/diff.js';
import { type TraceOptions, trace } from '../review/trace.js';
import { sampleStore } from '../samples-of.js';
import { type ScanOptions, scanDatabase } from '../scan/scan.js';
import type { Screen } from '../screen.js';
import { type ServeOptions, serveApi } from '../serve/serve-api.js';
import { names, portNumber } from './arguments.js';
import { type GlobalOptions, withStore } from './with-store.js';

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
    .description('what is risky or undecided in the API, and where model and database do not agree')
    .option('--no-drift', 'do not open the store to compare the model with the database')
    .option('--json', 'the findings as data')
    .option('--sarif', 'the findings as SARIF 2.1.0')
    .action(async (options: CheckOptions, command: Command) => {
      const global = command.optsWithGlobals<GlobalOptions>();
      await withStore(global, screen, (config, openStore, path) =>
        check(config, path, openStore, options, screen),
      );
    });
};

const addTrace = (program: Command, screen: Screen): void => {
  program
    .command('trace')
    .description('where a column gets out and in; or, back, what a member is made from')
    .argument('<place>', 'a column (vessel.name), an entity (vessel), or a member (vessels.read/name)')
    .option('--json', 'every way as data')
    .action(async (place: string, options: TraceOptions, command: Command) => {
      const { config } = command.optsWithGlobals<GlobalOptions>();
      trace(await loadConfig(findConfig(config)), place, options, screen);
    });
};

const addBuild = (program: Command, screen: Screen): void => {
  program
    .command('build')
    .description('OpenAPI document, schemas, types, client, stand-alone serializers and contract, as files')
    .addOption(new Option('--only <parts>', `some of ${PARTS.join(', ')}`).argParser(names))
    .option('--out <folder>', 'where to, from the configuration’s folder; default: its `out`, or generated')
    .option('--check', 'write nothing; exit with 1 where something is stale')
    .option('--json', 'what was written, as data')
    .action(async (options: BuildOptions, command: Command) => {
      const { config } = command.optsWithGlobals<GlobalOptions>();
      const path = findConfig(config);
      await buildOutputs(await loadConfig(path), path, options, screen);
    });
};

const addDiff = (program: Command, screen: Screen): void => {
  program
    .command('diff')
    .description('what a change breaks, and for whom: two contracts compared')
    .argument('<before>', 'the contract that clients know: contract.json of a build')
    .argument('[after]', 'the later contract; left out: the API as it is declared now')
    .option('--json', 'the differences as data')
    .option('--markdown', 'the differences as Markdown, for a pull request')
    .action(async (before: string, after: string | undefined, options: DiffOptions, command: Command) => {
      const { config } = command.optsWithGlobals<GlobalOptions>();
      await diff(() => loadConfig(findConfig(config)), [before, after], options, screen);
    });
};

const addServe = (program: Command, screen: Screen): void => {
  program
    .command('serve')
    .description('the API on this machine, for development')
    .option('--samples', 'on made-up rows in memory, before there is a store')
    .addOption(new Option('--port <number>', 'the port; 0: any').argParser(portNumber).default(8080))
    .option('--audience <name>', 'whom everybody is who does not say otherwise')
    .action(async (options: ServeOptions, command: Command) => {
      const global = command.optsWithGlobals<GlobalOptions>();
      await withStore(global, screen, (config, openStore, path) =>
        serveApi(config, path, openStore, options, screen),
      );
    });
};

const addBoard = (program: Command, screen: Screen): void => {
  program
    .command('board')
    .description('a copy of the board to hand around: a folder with a page and made data')
    .requiredOption('--out <folder>', 'where it is written')
    .action(async (options: BoardOptions, command: Command) => {
      const global = command.optsWithGlobals<GlobalOptions>();
      await withStore(global, screen, async (config, _openStore, path) =>
        staticBoard(config, path, async () => sampleStore(config), options, screen),
      );
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

/** The commands that are about an API or a database as a whole. */
export const addApiCommands = (program: Command, screen: Screen): void => {
  addFormats(program, screen);
  addServe(program, screen);
  addBoard(program, screen);
  addBuild(program, screen);
  addTrace(program, screen);
  addCheck(program, screen);
  addDiff(program, screen);
  addScan(program, screen);
};
