import { type Format, standardFormats } from '@gribo/http';
import Table from 'cli-table3';
import type { GriboConfig } from '../config/config.js';
import { printJson } from '../screen/print-json.js';
import type { Screen } from '../screen/screen.js';

export interface FormatsOptions {
  readonly json?: boolean;
}

/** A format that an API speaks. */
export interface FormatTold {
  readonly name: string;
  /** Those that it is sent and read as; ` (reads)` stands behind those that are read only. */
  readonly mediaTypes: readonly string[];
  /** What it is for, in words: `sends`, `sends lists`, `streams`, `reads`, `reads lists`. */
  readonly uses: readonly string[];
}

/** What `gribo formats --json` prints: the formats, the preferred one first. */
export type FormatsJson = readonly FormatTold[];

/** What a format is for, in words. */
const usesOf = ({ write, read, readRows, stream, onlyLists }: Format): readonly string[] => [
  ...(write === undefined ? [] : [onlyLists === true ? 'sends lists' : 'sends']),
  ...(stream === undefined ? [] : ['streams']),
  ...(read === undefined ? [] : ['reads']),
  ...(readRows === undefined ? [] : ['reads lists']),
];

/** Lists the formats that an API speaks, in order of preference. */
export const formats = (config: GriboConfig, options: FormatsOptions, screen: Screen): void => {
  const all = (config.formats ?? standardFormats).map((format) => ({
    name: format.name,
    mediaTypes: [...format.mediaTypes, ...(format.alsoReads ?? []).map((type) => `${type} (reads)`)],
    uses: usesOf(format),
  }));
  if (options.json === true) return printJson<FormatsJson>(screen, all);
  const { colours } = screen;
  const table = new Table({
    head: ['', 'format', 'media types', 'it'],
    style: { head: [], border: [] },
    chars: BARE,
  });
  for (const [i, { name, mediaTypes, uses }] of all.entries()) {
    table.push([String(i + 1), colours.bold(name), mediaTypes.join('\n'), uses.join(', ')]);
  }
  screen.print(table.toString());
  screen.print(colours.dim('\nWhere a caller accepts several alike, the first of them is sent.'));
};

/** A table without lines. */
const BARE = Object.fromEntries(
  ['top', 'top-mid', 'top-left', 'top-right', 'bottom', 'bottom-mid', 'bottom-left', 'bottom-right']
    .concat(['left', 'left-mid', 'mid', 'mid-mid', 'right', 'right-mid', 'middle'])
    .map((name) => [name, '']),
);
