import { editionPlace } from '@gribo/http';
import type { Command } from 'commander';
import { ofEdition } from 'gribo';
import { editionsOf } from 'gribo/kit';
import type { GriboConfig } from '../config/config.js';
import { Mistake } from '../screen/mistake.js';

/** The option that says in which edition an API is looked at. */
export interface EditionOptions {
  readonly edition?: string;
}

/** Adds the option to a command. */
export const addEdition = (command: Command): Command =>
  command.option('--edition <name>', 'the edition of the API; default: the newest');

/** The names of a configuration's editions, oldest first. */
export const editionNames = ({ api }: GriboConfig): readonly string[] =>
  editionsOf(api.plan).flatMap(({ edition }) => edition?.name ?? []);

/** How a request names an edition: each part says nothing where another place names it. */
export interface EditionNaming {
  /** What paths begin with. */
  readonly path: string;
  readonly headers: Readonly<Record<string, string>>;
  /** What media types have besides. */
  readonly parameter: string;
}

/** How requests name the edition that a configuration's API is in. */
export const editionNaming = ({ api, editions }: GriboConfig): EditionNaming => {
  const { edition } = api.plan;
  const { by, name } = editionPlace(editions);
  return {
    path: edition !== null && by === 'path' ? `/${edition.name}` : '',
    headers: edition !== null && by === 'header' ? { [name]: edition.name } : {},
    parameter: edition !== null && by === 'mediaType' ? `;${name}=${edition.name}` : '',
  };
};

/** The folder of an edition in that of a build: the newest is where the only one would be. */
export const editionFolder = (name: string, all: readonly string[]): string =>
  name === all.at(-1) ? '' : `editions/${name}/`;

/** The configuration with its API in one edition; itself where none is named. @throws {Mistake} where there is none such */
export const inAskedEdition = (config: GriboConfig, { edition }: EditionOptions): GriboConfig => {
  if (edition === undefined) return config;
  const names = editionNames(config);
  if (names.includes(edition)) return { ...config, api: ofEdition(config.api, edition) };
  const there = names.length === 0 ? 'The API has none.' : `There are: ${names.join(', ')}.`;
  throw new Mistake(`There is no edition "${edition}". ${there}`);
};
