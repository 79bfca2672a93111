import { type Command, Option } from 'commander';
import { addEdition, inAskedEdition } from '../asked/asked-edition.js';
import { findConfig, loadConfig } from '../config/load-config.js';
import type { AddCommand } from '../running/command.js';
import type { GlobalOptions } from '../running/with-store.js';
import { Mistake } from '../screen/mistake.js';
import type { TableOptions } from './table.js';

export const addTable: AddCommand = (program, screen) => {
  addEdition(program.command('table'))
    .description('which member appears at which endpoint, for whom, changed how')
    .argument('[entity]', 'the name of an entity, such as berth; with --rows it may be left out')
    .option('--audience <name>', 'for this audience only; default: for all, told apart')
    .addOption(
      new Option('--rows', 'which rows callers see and change, instead of members').conflicts('inputs'),
    )
    .option('--inputs', 'which members come in, from whom, instead of those that go out')
    .option('--json', 'the table as data')
    .action(
      async (
        entity: string | undefined,
        options: TableOptions & { readonly rows?: boolean; readonly inputs?: boolean },
        command: Command,
      ) => {
        const [{ inputsTable }, { rowsTable }, { table }] = await Promise.all([
          import('./inputs-table.js'),
          import('./rows-table.js'),
          import('./table.js'),
        ]);
        const { config } = command.optsWithGlobals<GlobalOptions>();
        const loaded = inAskedEdition(await loadConfig(findConfig(config)), options);
        if (options.rows === true) return rowsTable(loaded, entity, options, screen);
        if (entity === undefined) throw new Mistake('Name an entity, such as berth, or add --rows.');
        const draw = options.inputs === true ? inputsTable : table;
        draw(loaded, entity, options, screen);
      },
    );
};
