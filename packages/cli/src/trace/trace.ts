import { type Flow, lineage } from 'gribo';
import { didYouMean } from 'gribo/kit';
import type { EditionOptions } from '../asked/asked-edition.js';
import { pickEndpoint } from '../asked/pick-endpoint.js';
import type { GriboConfig } from '../config/config.js';
import { audienceWords } from '../review/audience-words.js';
import { endpointWords } from '../review/endpoint-words.js';
import { Mistake } from '../screen/mistake.js';
import { printJson } from '../screen/print-json.js';
import { fit, type Screen } from '../screen/screen.js';

/** What `gribo trace --json` prints: every way of a column, or of what a member is made from. */
export type TraceJson = readonly Flow[];

export interface TraceOptions extends EditionOptions {
  readonly json?: boolean;
}

/** What a trace found, under the words that were asked. */
interface Trace {
  readonly title: string;
  readonly flows: readonly Flow[];
}

const nameOf = ({ entity, column }: Flow): string => `${entity}.${column}`;

/** The columns that a trace can be about. */
const columnsOf = (config: GriboConfig, flows: readonly Flow[]): ReadonlySet<string> => {
  const entities = [
    ...Object.values(config.model ?? {}).map(({ entity }) => entity),
    ...config.api.plan.endpoints.map(({ entity }) => entity),
  ];
  return new Set([
    ...entities.flatMap(({ name, columns }) => columns.map((column) => `${name}.${column.name}`)),
    ...flows.map(nameOf),
  ]);
};

const ofColumn = (config: GriboConfig, flows: readonly Flow[], asked: string): Trace => {
  const known = columnsOf(config, flows);
  const isEntity = [...known].some((name) => name.startsWith(`${asked}.`));
  if (isEntity) return { title: asked, flows: flows.filter(({ entity }) => entity === asked) };
  if (!known.has(asked)) {
    const close = didYouMean(asked, known);
    const help = 'Name a column (vessel.name), an entity (vessel), or a member (vessels.read/name).';
    throw new Mistake(`There is no column "${asked}".${close === '' ? ` ${help}` : close}`);
  }
  return { title: asked, flows: flows.filter((flow) => nameOf(flow) === asked) };
};

/** A member without the marks of lists, as people type it. */
const plain = (member: string): string => member.replaceAll('[]', '');

/** What a member is made from: its own columns, and those of all that is inside it. */
const ofMember = (config: GriboConfig, flows: readonly Flow[], asked: string): Trace => {
  const slash = asked.indexOf('/');
  const endpoint = pickEndpoint(config, asked.slice(0, slash)).name;
  const wanted = plain(asked.slice(slash + 1));
  const here = flows.filter(
    (flow) => flow.endpoint === endpoint && flow.kind !== 'set' && !flow.member.startsWith('?'),
  );
  const isWanted = (member: string): boolean => {
    const path = plain(member);
    // In a page, its rows' members go by their own names too.
    const inPage = path.startsWith('items.') ? path.slice('items.'.length) : path;
    return [path, inPage].some((name) => name === wanted || name.startsWith(`${wanted}.`));
  };
  const found = here.filter(({ member }) => isWanted(member));
  if (found.length === 0) {
    const members = new Set(here.map(({ member }) => plain(member)));
    const close = didYouMean(wanted, members);
    throw new Mistake(`${endpoint} has no member "${wanted}" that comes from a column.${close}`);
  }
  return { title: `${endpoint}/${wanted}`, flows: found };
};

const HOW: Readonly<Record<Flow['kind'], string>> = {
  sent: 'as it is',
  converted: '',
  computed: 'computed from it',
  decides: 'decides what is there',
  rules: 'decides which rows',
  orders: 'orders the rows',
  filters: 'filters the rows',
  set: 'set by it',
};

const howWords = ({ kind, conversions, asks, where }: Flow): string => {
  const how = kind === 'converted' ? conversions.join(', ') : HOW[kind];
  const asked = asks.length === 0 ? how : `${how}, with=${asks.join(',')}`;
  return where === null ? asked : `${asked}, some rows`;
};

/** Flows that differ in their endpoint only, as one line. */
interface Line {
  readonly column: string;
  readonly endpoints: string[];
  readonly member: string;
  readonly how: string;
  /** For which rows; null: for all of them. */
  readonly rows: string | null;
  readonly whom: string;
  readonly sealed: boolean;
}

const linesOf = (flows: readonly Flow[], audiences: readonly string[]): readonly Line[] => {
  const lines = new Map<string, Line>();
  for (const flow of flows) {
    const rest = {
      column: nameOf(flow),
      member: flow.member === '' ? '(rows)' : flow.member,
      rows: flow.where,
      how: howWords(flow),
      whom: audienceWords(flow.audiences, audiences),
      sealed: flow.sealed !== null && flow.kind !== 'set',
    };
    const key = JSON.stringify(rest);
    const line = lines.get(key) ?? { ...rest, endpoints: [] };
    line.endpoints.push(flow.endpoint);
    lines.set(key, line);
  }
  return [...lines.values()];
};

const OUT: readonly Flow['kind'][] = ['sent', 'converted', 'computed'];
const BESIDES: readonly Flow['kind'][] = ['decides', 'rules', 'orders', 'filters'];

const SECTIONS: readonly (readonly [string, readonly Flow['kind'][]])[] = [
  ['gets out', OUT],
  ['has a say in', BESIDES],
  ['gets in', ['set']],
];

const widest = (texts: readonly string[], most: number): number =>
  Math.min(most, Math.max(...texts.map((text) => text.length)));

/** @param isMember whether all of it is at one endpoint, which the title names */
const printLines = (
  screen: Screen,
  lines: readonly Line[],
  showsColumn: boolean,
  isMember: boolean,
): void => {
  const { colours } = screen;
  const shown = lines.map((line) => ({ ...line, where: endpointWords(line.endpoints) }));
  const column = showsColumn
    ? widest(
        shown.map((line) => line.column),
        26,
      ) + 2
    : 0;
  const where =
    widest(
      shown.map((line) => line.where),
      44,
    ) + 2;
  const member =
    widest(
      shown.map((line) => line.member),
      30,
    ) + 2;
  const how =
    widest(
      shown.map((line) => line.how),
      26,
    ) + 2;
  for (const line of shown) {
    const whom = line.sealed ? colours.red(`for ${line.whom}`) : `for ${line.whom}`;
    const at = isMember ? '' : fit(line.where, where);
    const from = showsColumn ? colours.cyan(fit(line.column, column)) : '';
    screen.print(
      `  ${from}${at}${colours.bold(fit(line.member, member))}${colours.dim(fit(line.how, how))}${whom}`,
    );
    if (line.rows !== null) screen.print(colours.dim(`      where ${line.rows}`));
  }
};

const sealOf = (flows: readonly Flow[]): string => {
  const labels = new Set(flows.flatMap(({ sealed }) => (sealed === null ? [] : [sealed])));
  return labels.size === 0 ? '' : `  sealed: ${[...labels].join(', ')}`;
};

/** Prints where a column gets out and in, or what a member is made from. */
export const trace = (config: GriboConfig, asked: string, options: TraceOptions, screen: Screen): void => {
  const flows = lineage(config.api);
  const isMember = asked.includes('/');
  const found = isMember ? ofMember(config, flows, asked) : ofColumn(config, flows, asked);
  if (options.json === true) return printJson<TraceJson>(screen, found.flows);
  const { colours } = screen;
  const { audiences } = config.api.plan;
  screen.print(colours.bold(found.title) + colours.red(sealOf(found.flows)));
  const showsColumn = isMember || !found.title.includes('.');
  for (const [title, kinds] of SECTIONS) {
    const lines = linesOf(
      found.flows.filter(({ kind }) => kinds.includes(kind)),
      audiences,
    );
    const heading = isMember
      ? title.replace('gets out', 'is made from').replace('has a say in', 'depends on')
      : title;
    if (lines.length > 0) {
      screen.print(`\n${colours.bold(heading)}`);
      printLines(screen, lines, showsColumn, isMember);
    } else if (kinds === OUT && !isMember) screen.print(`\n${colours.green('gets out nowhere')}`);
  }
};
