import { type Command, InvalidArgumentError, Option } from 'commander';
import { portNumber } from '../running/arguments.js';
import type { AddCommand } from '../running/command.js';
import { type GlobalOptions, withStore } from '../running/with-store.js';
import { type Pretence, readPretence } from './pretence.js';
import type { ServeOptions } from './serve-api.js';

const pretence = (text: string): Pretence => {
  const read = readPretence(text);
  if (typeof read === 'string') throw new InvalidArgumentError(read);
  return read;
};

export const addServe: AddCommand = (program, screen) => {
  program
    .command('serve')
    .description('the API on this machine, for development')
    .option('--samples', 'on made-up rows in memory, before there is a store')
    .addOption(new Option('--port <number>', 'the port; 0: any').argParser(portNumber).default(8080))
    .option('--audience <name>', 'whom everybody is who does not say otherwise')
    .addOption(
      new Option(
        '--pretend <what>',
        'late, slow and failing answers: wait=1500,status=503,cut=200,pace=1000',
      ).argParser(pretence),
    )
    .option('--record <file>', 'write requests and answers down, as an HTTP Archive')
    .option('--replay <file>', 'answer what is in such a file as it is there')
    .action(async (options: ServeOptions, command: Command) => {
      const { serveApi } = await import('./serve-api.js');
      const global = command.optsWithGlobals<GlobalOptions>();
      await withStore(global, screen, (config, openStore, path) =>
        serveApi(config, path, openStore, options, screen),
      );
    });
};
