import { type Command, Option } from 'commander';
import { portNumber } from '../running/arguments.js';
import type { AddCommand } from '../running/command.js';
import { type GlobalOptions, withStore } from '../running/with-store.js';
import type { ServeOptions } from './serve-api.js';

export const addServe: AddCommand = (program, screen) => {
  program
    .command('serve')
    .description('the API on this machine, for development')
    .option('--samples', 'on made-up rows in memory, before there is a store')
    .addOption(new Option('--port <number>', 'the port; 0: any').argParser(portNumber).default(8080))
    .option('--audience <name>', 'whom everybody is who does not say otherwise')
    .action(async (options: ServeOptions, command: Command) => {
      const { serveApi } = await import('./serve-api.js');
      const global = command.optsWithGlobals<GlobalOptions>();
      await withStore(global, screen, (config, openStore, path) =>
        serveApi(config, path, openStore, options, screen),
      );
    });
};
