import {
  didYouMean,
  type EndpointPlan,
  type InputLine,
  inputTable,
  sayTaken,
  type TakenWay,
} from 'gribo/kit';
import type { GriboConfig } from '../config/config.js';
import { Mistake } from '../screen/mistake.js';
import { printJson } from '../screen/print-json.js';
import type { Screen } from '../screen/screen.js';
import { drawTable, NONE } from './draw-table.js';
import type { TableOptions } from './table.js';
import { toldApart } from './told-apart.js';

/** What `gribo table --inputs --json` prints: a line for each member, by endpoint how it comes in and from whom. */
export type InputsJson = readonly InputLine[];

/** The endpoints that take something of an entity. */
const endpointsOver = (config: GriboConfig, entity: string): readonly EndpointPlan[] => {
  const taking = config.api.plan.endpoints.filter(
    ({ takes }) => takes !== null && takes.entity.kind !== 'values',
  );
  const over = taking.filter(({ takes }) => takes?.entity.name === entity);
  if (over.length > 0) return over;
  const known = [...new Set(taking.map(({ takes }) => takes?.entity.name ?? ''))];
  const close = didYouMean(entity, known);
  const all = ` There are endpoints that take ${known.join(', ')}.`;
  throw new Mistake(`No endpoint takes a "${entity}".${close === '' ? all : close}`);
};

/** What has to be there is green, what is for some only yellow. */
const paintOf = (colours: Screen['colours'], { presence, whom }: TakenWay): ((text: string) => string) => {
  if (whom !== null) return colours.yellow;
  return presence === 'required' ? colours.green : colours.magenta;
};

/** Prints which member comes in at which endpoint, from whom, and what it sets. */
export const inputsTable = (
  config: GriboConfig,
  entity: string,
  options: TableOptions,
  screen: Screen,
): void => {
  const endpoints = endpointsOver(config, entity);
  const { whom, words } = toldApart(config, options.audience);
  const lines = inputTable(endpoints, whom);
  if (options.json === true) return printJson<InputsJson>(screen, lines);
  const { colours } = screen;
  screen.print(`${colours.bold(entity)} as it comes in, from ${words}\n`);
  screen.print(
    drawTable(screen, entity, endpoints, lines, (way: TakenWay, member) =>
      paintOf(colours, way)(sayTaken(way, member)),
    ),
  );
  screen.print(
    colours.dim(
      `\nsets …: the column or link, where the member is called otherwise; ${NONE}: may not come in; "agent: …": from agents only`,
    ),
  );
};
