import Table from 'cli-table3';
import { contentShape, didYouMean, type EndpointPlan } from 'gribo';
import type { GriboConfig } from '../config.js';
import { Mistake } from '../mistake.js';
import type { Screen } from '../screen.js';
import { pickAudience } from '../situation.js';
import { alikeColumns, tableLines } from './cells.js';

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

const longestLine = (text: string): number => Math.max(...text.split('\n').map((line) => line.length));

/** Columns as wide as their heads at least, and as the screen allows: members by endpoints. */
const widths = (screen: Screen, heads: readonly string[], members: readonly string[]): number[] => {
  const first = Math.min(24, Math.max(8, ...members.map((member) => member.length)) + 2);
  const borders = heads.length + 2;
  const each = Math.floor((screen.width - first - borders) / heads.length);
  return [first, ...heads.map((head) => Math.max(longestLine(head) + 2, Math.min(each, 36)))];
};

const NONE = '·';

/** Prints which member appears at which endpoint, for whom, changed how. */
export const table = (config: GriboConfig, entity: string, options: TableOptions, screen: Screen): void => {
  const endpoints = endpointsAbout(config, entity);
  const audience = pickAudience(config, options.audience);
  const audiences = audience === undefined ? config.api.plan.audiences : [audience];
  const lines = tableLines(endpoints, audiences);
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
  const paintLine = (line: string): string => {
    if (line.endsWith('unsealed')) return colours.red(line);
    if (/[:,]/.test(line)) return colours.yellow(line);
    return line === 'sent' || line.includes('.') ? colours.green(line) : colours.magenta(line);
  };
  const paint = (cell: string): string =>
    cell === '' ? colours.dim(NONE) : cell.split('\n').map(paintLine).join('\n');
  for (const { member, cells } of lines) {
    drawn.push([member, ...columns.map(([name = '']) => paint(cells[name] ?? ''))]);
  }
  const whom = audience ?? (audiences.length === 0 ? 'everybody' : `all audiences: ${audiences.join(', ')}`);
  screen.print(`${colours.bold(entity)} by endpoint, for ${whom}\n`);
  screen.print(drawn.toString());
  screen.print(
    colours.dim(
      `\nsent: as it is; link.column: from behind a link; ${NONE}: absent; another word: how it is made; "agent: …": for agents only`,
    ),
  );
};
