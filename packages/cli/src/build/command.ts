import { type Command, Option } from 'commander';
import { findConfig, loadConfig } from '../config/load-config.js';
import { names } from '../running/arguments.js';
import type { AddCommand } from '../running/command.js';
import type { GlobalOptions } from '../running/with-store.js';
import type { BuildOptions } from './build.js';
import { PARTS } from './output.js';

export const addBuild: AddCommand = (program, screen) => {
  program
    .command('build')
    .description('OpenAPI document, schemas, types, client, stand-alone serializers and contract, as files')
    .addOption(new Option('--only <parts>', `some of ${PARTS.join(', ')}`).argParser(names))
    .option('--out <folder>', 'where to, from the configuration’s folder; default: its `out`, or generated')
    .option('--check', 'write nothing; exit with 1 where something is stale')
    .option('--json', 'what was written, as data')
    .action(async (options: BuildOptions, command: Command) => {
      const { buildOutputs } = await import('./build.js');
      const { config } = command.optsWithGlobals<GlobalOptions>();
      const path = findConfig(config);
      await buildOutputs(await loadConfig(path), path, options, screen);
    });
};
