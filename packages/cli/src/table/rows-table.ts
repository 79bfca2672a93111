import Table from 'cli-table3';
import { type RowLine, rowTable } from 'gribo/kit';
import { pickAudience } from '../asked/situation.js';
import type { GriboConfig } from '../config/config.js';
import { Mistake } from '../screen/mistake.js';
import { printJson } from '../screen/print-json.js';
import type { Screen } from '../screen/screen.js';
import { everybodys, rowsWhere, rowWords } from './row-words.js';
import type { TableOptions } from './table.js';

/** Which rows of an entity one audience sees and changes. */
export interface RowsTold extends Omit<RowLine, 'see' | 'change'> {
  /** Which it sees, in words: `all`, `none`, or the condition. */
  readonly see: string;
  /** The same of those that it changes. */
  readonly change: string;
}

/** What `gribo table --rows --json` prints. */
export type RowsJson = readonly RowsTold[];

const chosen = (
  config: GriboConfig,
  entity: string | undefined,
  audience: string | undefined,
): readonly RowLine[] => {
  const named = pickAudience(config, audience);
  const lines = rowTable(config.api).filter((line) => named === null || line.audience === named);
  if (entity === undefined) return lines;
  const about = lines.filter((line) => line.entity === entity);
  if (about.length > 0) return about;
  const known = [...new Set(lines.map((line) => line.entity))];
  throw new Mistake(`No endpoint is about "${entity}". There are endpoints about ${known.join(', ')}.`);
};

/** Prints which rows callers see and change. */
export const rowsTable = (
  config: GriboConfig,
  entity: string | undefined,
  { json = false, audience }: TableOptions,
  screen: Screen,
): void => {
  const lines = chosen(config, entity, audience);
  if (json) {
    const told = lines.map(({ see, change, ...line }) => ({
      ...line,
      see: rowsWhere(see),
      change: rowsWhere(change),
    }));
    return printJson<RowsJson>(screen, told);
  }
  const { colours } = screen;
  const ruled = rowWords(lines);
  const free = everybodys(lines);
  if (ruled.length > 0) {
    const width = Math.max(16, Math.floor((screen.width - 44) / 2));
    const table = new Table({
      head: ['rows of', 'for', 'sees', 'changes'],
      style: { head: [], border: [] },
      colWidths: [14, 22, width, width],
      wordWrap: true,
    });
    ruled.forEach(({ entity: name, audiences, sees, changes }, i) => {
      const whom = audiences.map((one) => one ?? 'no audience').join(', ');
      table.push([ruled[i - 1]?.entity === name ? '' : name, whom, sees, changes]);
    });
    screen.print(`${colours.bold('Which rows callers see and change')}\n\n${table.toString()}`);
  }
  if (free.length > 0)
    screen.print(`\nNo rule says whose these are, so they are everybody's: ${free.join(', ')}.`);
};
