import {
  contentShape,
  didYouMean,
  type EndpointPlan,
  memberTable,
  sayWay,
  type TableLine,
  type Way,
} from 'gribo/kit';
import type { EditionOptions } from '../asked/asked-edition.js';
import type { GriboConfig } from '../config/config.js';
import { Mistake } from '../screen/mistake.js';
import { printJson } from '../screen/print-json.js';
import type { Screen } from '../screen/screen.js';
import { drawTable, NONE } from './draw-table.js';
import { toldApart } from './told-apart.js';

/** What `gribo table --json` prints: a line for each member, by endpoint what it is there and for whom. */
export type TableJson = readonly TableLine[];

export interface TableOptions extends EditionOptions {
  readonly audience?: string;
  readonly json?: boolean;
}

/** The endpoints about one entity that send something. */
const endpointsAbout = (config: GriboConfig, entity: string): readonly EndpointPlan[] => {
  const { endpoints } = config.api.plan;
  const about = endpoints.filter(
    ({ returns }) => returns !== null && contentShape(returns).entity.name === entity,
  );
  if (about.length > 0) return about;
  const known = [...new Set(endpoints.map((endpoint) => endpoint.entity.name))];
  const close = didYouMean(entity, known);
  const all = ` There are endpoints about ${known.join(', ')}.`;
  throw new Mistake(`No endpoint sends a "${entity}".${close === '' ? all : close}`);
};

/** What leaves a seal is red, what depends on something yellow, what is made of values magenta. */
const paintOf = (colours: Screen['colours'], { how, when, whom }: Way): ((text: string) => string) => {
  if (how.kind === 'unsealed') return colours.red;
  if (when !== null || whom !== null) return colours.yellow;
  return how.kind === 'sent' || how.kind === 'linked' ? colours.green : colours.magenta;
};

/** Conditions, each once, below the table: in its cells there is no room for them. */
class Notes {
  readonly #known: string[] = [];

  numberOf(text: string): number {
    const at = this.#known.indexOf(text);
    return at === -1 ? this.#known.push(text) : at + 1;
  }

  get lines(): readonly string[] {
    return this.#known.map((text, i) => `(${i + 1}) ${text}`);
  }
}

/** Prints which member appears at which endpoint, for whom, changed how. */
export const table = (config: GriboConfig, entity: string, options: TableOptions, screen: Screen): void => {
  const endpoints = endpointsAbout(config, entity);
  const { whom, words } = toldApart(config, options.audience);
  const lines = memberTable(config.api.plan, endpoints, whom);
  if (options.json === true) return printJson<TableJson>(screen, lines);
  const { colours } = screen;
  const notes = new Notes();
  const drawn = drawTable(screen, entity, endpoints, lines, (way: Way) =>
    paintOf(colours, way)(sayWay(way, (where) => `where (${notes.numberOf(where)})`)),
  );
  screen.print(`${colours.bold(entity)} by endpoint, for ${words}\n`);
  screen.print(drawn);
  for (const line of notes.lines) screen.print(line);
  screen.print(
    colours.dim(
      `\nsent: as it is; link.column: from behind a link; ${NONE}: absent; another word: how it is made; "agent: …": for agents only`,
    ),
  );
};
