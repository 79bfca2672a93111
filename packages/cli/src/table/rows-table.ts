import Table from 'cli-table3';
import { isNever, type RowLine, rowTable, sayCondition } from 'gribo/kit';
import { pickAudience } from '../asked/situation.js';
import type { GriboConfig } from '../config/config.js';
import { Mistake } from '../screen/mistake.js';
import type { Screen } from '../screen/screen.js';
import type { TableOptions } from './table.js';

const words = (condition: RowLine['see']): string => {
  if (condition === null) return 'all';
  return isNever(condition) ? 'none' : sayCondition(condition);
};

/** Lines that say the same, with the audiences that they are for. */
const alike = (lines: readonly RowLine[]): readonly (readonly [RowLine, readonly string[]])[] => {
  const found = new Map<string, [RowLine, string[]]>();
  for (const line of lines) {
    const key = `${words(line.see)}\n${words(line.change)}`;
    const known = found.get(key) ?? [line, []];
    found.set(key, known);
    known[1].push(line.audience ?? 'no audience');
  }
  return [...found.values()];
};

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
      see: words(see),
      change: words(change),
    }));
    return screen.print(JSON.stringify(told, null, 2));
  }
  const { colours } = screen;
  const ruled = lines.filter(({ isRuled }) => isRuled);
  const free = [...new Set(lines.filter(({ isRuled }) => !isRuled).map((line) => line.entity))];
  if (ruled.length > 0) {
    const width = Math.max(16, Math.floor((screen.width - 44) / 2));
    const table = new Table({
      head: ['rows of', 'for', 'sees', 'changes'],
      style: { head: [], border: [] },
      colWidths: [14, 22, width, width],
      wordWrap: true,
    });
    for (const name of new Set(ruled.map((line) => line.entity))) {
      const rows = alike(ruled.filter((line) => line.entity === name));
      rows.forEach(([line, audiences], i) => {
        table.push([i === 0 ? name : '', audiences.join(', '), words(line.see), words(line.change)]);
      });
    }
    screen.print(`${colours.bold('Which rows callers see and change')}\n\n${table.toString()}`);
  }
  if (free.length > 0)
    screen.print(`\nNo rule says whose these are, so they are everybody's: ${free.join(', ')}.`);
};
