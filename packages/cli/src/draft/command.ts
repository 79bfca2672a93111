import type { Command } from 'commander';
import { findConfig, loadConfig } from '../config/load-config.js';
import type { AddCommand } from '../running/command.js';
import type { GlobalOptions } from '../running/with-store.js';
import type { DraftOptions } from './draft.js';

export const addDraft: AddCommand = (program, screen) => {
  program
    .command('draft')
    .description('a starter shape and input, every column listed to be kept or deleted')
    .argument('<entity>', 'the name of an entity, such as vessel')
    .option('--model <path>', 'where the module with the model is, as it is imported', './model.js')
    .action(async (entity: string, options: DraftOptions, command: Command) => {
      const { draft } = await import('./draft.js');
      const { config } = command.optsWithGlobals<GlobalOptions>();
      draft(await loadConfig(findConfig(config)), entity, options, screen);
    });
};
