import type { Command } from 'commander';
import { findConfig, loadConfig } from '../config/load-config.js';
import type { AddCommand } from '../running/command.js';
import type { GlobalOptions } from '../running/with-store.js';
import type { PublishOptions } from './publish.js';

export const addPublish: AddCommand = (program, screen) => {
  program
    .command('publish')
    .description('keep the contract of an edition, so that gribo check fails where it changes')
    .argument('<edition>', 'its name, such as 2026-05')
    .option('--again', 'where it was published before and has changed: keep what it is now')
    .action(async (edition: string, options: PublishOptions, command: Command) => {
      const { publish } = await import('./publish.js');
      const { config } = command.optsWithGlobals<GlobalOptions>();
      const path = findConfig(config);
      await publish(await loadConfig(path), path, edition, options, screen);
    });
};
