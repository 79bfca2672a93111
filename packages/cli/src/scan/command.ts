import type { AddCommand } from '../running/command.js';
import type { ScanOptions } from './scan.js';

export const addScan: AddCommand = (program, screen) => {
  program
    .command('scan')
    .description('the model of a live database: tables, columns and links as declarations')
    .argument('<url>', 'its address: postgres://…, mysql://…, sqlite:file or pglite:folder')
    .option('--schema <name...>', 'read these schemas; left out: those whose tables are found without one')
    .option('--out <file>', 'where the model is written; left out: it is printed')
    .option('--start', 'write a first API and a configuration too')
    .option('--force', 'write over files that are there')
    .action(async (url: string, options: ScanOptions) => {
      const { scanDatabase } = await import('./scan.js');
      await scanDatabase(url, options, screen);
    });
};
