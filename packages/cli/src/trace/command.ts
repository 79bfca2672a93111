import type { Command } from 'commander';
import { addEdition, inAskedEdition } from '../asked/asked-edition.js';
import { findConfig, loadConfig } from '../config/load-config.js';
import type { AddCommand } from '../running/command.js';
import type { GlobalOptions } from '../running/with-store.js';
import type { TraceOptions } from './trace.js';

export const addTrace: AddCommand = (program, screen) => {
  addEdition(program.command('trace'))
    .description('where a column gets out and in; or, back, what a member is made from')
    .argument('<place>', 'a column (vessel.name), an entity (vessel), or a member (vessels.read/name)')
    .option('--json', 'every way as data')
    .action(async (place: string, options: TraceOptions, command: Command) => {
      const { trace } = await import('./trace.js');
      const { config } = command.optsWithGlobals<GlobalOptions>();
      trace(inAskedEdition(await loadConfig(findConfig(config)), options), place, options, screen);
    });
};
