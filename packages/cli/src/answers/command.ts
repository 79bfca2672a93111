import type { AnswerDatabase } from '@gribo/sql';
import { Argument } from 'commander';
import type { AddCommand } from '../running/command.js';
import type { AnswersOptions } from './answers.js';

/** As `answerTable` knows them: what it knows is loaded where the command is run. */
const DATABASES: readonly AnswerDatabase[] = ['postgres', 'mysql', 'sqlite'];

export const addAnswers: AddCommand = (program, screen) => {
  program
    .command('answers')
    .description('the statements that make the table in which answers are kept, for serve’s `repeats`')
    .addArgument(new Argument('<database>', 'which one').choices(DATABASES))
    .option('--table <name>', 'what the table is called', 'kept_answer')
    .action(async (database: AnswerDatabase, options: AnswersOptions) => {
      const { answers } = await import('./answers.js');
      answers(database, options, screen);
    });
};
