import Table from 'cli-table3';
import {
  contentShape,
  didYouMean,
  type EndpointPlan,
  memberTable,
  sayWay,
  type TableLine,
  type Way,
} from 'gribo/kit';
import { pickAudience } from '../asked/situation.js';
import type { GriboConfig } from '../config/config.js';
import { Mistake } from '../screen/mistake.js';
import type { Screen } from '../screen/screen.js';

export interface TableOptions {
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

const resourceOf = (name: string): string => name.slice(0, name.lastIndexOf('.') + 1);

/** The head of a column: `portCalls.read`, and below it the operations that are alike. */
const headOf = (names: readonly string[]): string => {
  const [first = '', ...others] = names;
  const resource = resourceOf(first);
  const short = others.map((name) =>
    resource !== '' && resourceOf(name) === resource ? name.slice(resource.length) : name,
  );
  return [first, ...short].join('\n');
};

/** Endpoints that have the same cells throughout, as one column. */
const alikeColumns = (
  lines: readonly TableLine[],
  names: readonly string[],
): readonly (readonly string[])[] => {
  const columns = new Map<string, string[]>();
  for (const name of names) {
    const cells = JSON.stringify(lines.map((line) => line.cells[name]));
    columns.set(cells, [...(columns.get(cells) ?? []), name]);
  }
  return [...columns.values()];
};

const longestLine = (text: string): number => Math.max(...text.split('\n').map((line) => line.length));

/** Columns as wide as their heads at least, and as the screen allows: members by endpoints. */
const widths = (screen: Screen, heads: readonly string[], members: readonly string[]): number[] => {
  const first = Math.min(24, Math.max(8, ...members.map((member) => member.length)) + 2);
  const borders = heads.length + 2;
  const each = Math.floor((screen.width - first - borders) / heads.length);
  return [first, ...heads.map((head) => Math.max(longestLine(head) + 2, Math.min(each, 36)))];
};

const NONE = '·';

/** What leaves a seal is red, what depends on something yellow, what is made of values magenta. */
const paintOf = (colours: Screen['colours'], { how, when, whom }: Way): ((text: string) => string) => {
  if (how.kind === 'unsealed') return colours.red;
  if (when !== null || whom !== null) return colours.yellow;
  return how.kind === 'sent' || how.kind === 'linked' ? colours.green : colours.magenta;
};

/** Prints which member appears at which endpoint, for whom, changed how. */
export const table = (config: GriboConfig, entity: string, options: TableOptions, screen: Screen): void => {
  const endpoints = endpointsAbout(config, entity);
  const audience = pickAudience(config, options.audience);
  const { audiences } = config.api.plan;
  const whom = audience !== null || audiences.length === 0 ? [audience] : audiences;
  const lines = memberTable(config.api.plan, endpoints, whom);
  if (options.json === true) return screen.print(JSON.stringify(lines, null, 2));
  const { colours } = screen;
  const columns = alikeColumns(
    lines,
    endpoints.map(({ name }) => name),
  );
  const heads = columns.map(headOf);
  const drawn = new Table({
    head: [entity, ...heads].map((word) => colours.bold(word)),
    colWidths: widths(
      screen,
      heads,
      lines.map(({ member }) => member),
    ),
    wordWrap: true,
    style: { head: [], border: [], compact: true },
  });
  const paintWay = (way: Way): string => paintOf(colours, way)(sayWay(way));
  const paint = (ways: readonly Way[]): string =>
    ways.length === 0 ? colours.dim(NONE) : ways.map(paintWay).join('\n');
  for (const { member, cells } of lines) {
    drawn.push([member, ...columns.map(([name = '']) => paint(cells[name] ?? []))]);
  }
  const all = audiences.length === 0 ? 'everybody' : `all audiences: ${audiences.join(', ')}`;
  screen.print(`${colours.bold(entity)} by endpoint, for ${audience ?? all}\n`);
  screen.print(drawn.toString());
  screen.print(
    colours.dim(
      `\nsent: as it is; link.column: from behind a link; ${NONE}: absent; another word: how it is made; "agent: …": for agents only`,
    ),
  );
};
