import { editionPlace } from '@gribo/http';
import { dayOf, type EndpointPlan, editionsOf, isOver } from 'gribo/kit';
import { editionNaming } from '../asked/asked-edition.js';
import { BOARD_PATH } from '../board/board-server.js';
import type { GriboConfig } from '../config/config.js';
import { momentOf } from '../config/moment-of.js';
import type { Screen } from '../screen/screen.js';
import { sunsetWords } from '../screen/sunset-words.js';

/** Where it answers, and on which rows. */
export interface Announced {
  readonly address: string;
  /** The header that says whom a request is from. */
  readonly header: string;
  readonly samples?: boolean;
  readonly record?: string;
  readonly replay?: string;
}

const routeLines = (endpoints: readonly EndpointPlan[]): readonly string[] => {
  const longest = Math.max(...endpoints.map(({ name }) => name.length));
  return endpoints.map(({ method, path, name, audiences }) => {
    const whom = audiences === null ? '' : `for ${audiences.join(', ')}`;
    return `  ${method.padEnd(6)} ${path.padEnd(30)} ${name.padEnd(longest)}  ${whom}`.trimEnd();
  });
};

/** Which editions there are, where they are named, and what becomes of those who name none. */
const editionLines = ({ api, editions, unnamed = 'oldest', ...config }: GriboConfig): readonly string[] => {
  const all = editionsOf(api.plan).flatMap(({ edition }) => edition ?? []);
  const today = dayOf(momentOf(config));
  const oldest = all.find(({ deprecated }) => !isOver(deprecated, today));
  const newest = all.at(-1);
  if (newest === undefined) return [];
  const { by, name } = editionPlace(editions);
  const where = {
    path: 'as the first part of the path',
    header: `in the header ${name}`,
    mediaType: `with the media type, as in application/json;${name}=${newest.name}`,
  }[by];
  const words = all.map((one) => sunsetWords(one.name, one.deprecated?.sunset ?? null)).join(', ');
  const chosen = { oldest: oldest?.name ?? newest.name, newest: newest.name }[unnamed] ?? unnamed;
  const others = unnamed === 'refuse' ? 'refused' : `answered in ${chosen}`;
  return [`Editions: ${words}, ${where}. Who names none is ${others}.`];
};

/** Says where an API answers, and what there is. */
export const announce = (config: GriboConfig, at: Announced, screen: Screen): void => {
  const { colours } = screen;
  const { title, audiences, endpoints, edition } = config.api.plan;
  const { address, header } = at;
  const rows = at.samples === true ? 'sample rows, in memory' : 'its store';
  const routes = edition === null ? '' : ` These are its endpoints in ${edition.name}:`;
  screen.print(`${colours.bold(title)} answers at ${colours.cyan(address)}, on ${rows}.${routes}\n`);
  for (const line of routeLines(endpoints)) screen.print(line);
  for (const line of editionLines(config)) screen.print(`\n${line}`);
  const whom = audiences.length === 0 ? '' : ` -H '${header}: ${audiences[0]}'`;
  const { path, headers, parameter } = editionNaming(config);
  const said = { ...headers, ...(parameter === '' ? {} : { Accept: `application/json${parameter}` }) };
  const named = Object.entries(said).map(([name, value]) => ` -H '${name}: ${value}'`);
  screen.print(`\n  curl ${address}${path}${endpoints[0]?.path ?? '/'}${named.join('')}${whom}`);
  if (at.record !== undefined) screen.print(`\nRequests and answers are written to ${at.record}.`);
  if (at.replay !== undefined) screen.print(`\nWhat is in ${at.replay} is answered as it is there.`);
  screen.print(`\nThe board: ${colours.cyan(`${address}${BOARD_PATH}/`)}`);
  screen.print(colours.dim('For development only: callers say themselves whom they are. Ctrl+C ends it.'));
};
