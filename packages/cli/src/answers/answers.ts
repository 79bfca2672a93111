import { type AnswerDatabase, answerTable } from '@gribo/sql';
import type { Screen } from '../screen/screen.js';

export interface AnswersOptions {
  readonly table: string;
}

/** Prints the statements that make the table of kept answers: a migration, as it is. */
export const answers = (database: AnswerDatabase, { table }: AnswersOptions, screen: Screen): void => {
  for (const statement of answerTable(database, table)) screen.print(`${statement};`);
};
