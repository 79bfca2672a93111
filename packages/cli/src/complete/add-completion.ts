import tab from '@bomb.sh/tab/commander';
import type { Command } from 'commander';
import { editionNames } from '../asked/asked-edition.js';
import type { GriboConfig } from '../config/config.js';
import { findConfig, loadConfig } from '../config/load-config.js';

/** The names of the project that is here, by what an argument or an option takes. */
const namesOf = (config: GriboConfig): Readonly<Record<string, readonly string[]>> => {
  const { api, model = {}, callers = {} } = config;
  const { endpoints, audiences } = api.plan;
  const editions = editionNames(config);
  const entities = Object.keys(model);
  const columns = Object.values(model).flatMap(({ entity }) =>
    entity.columns.map(({ name }) => `${entity.name}.${name}`),
  );
  return {
    endpoint: endpoints.map(({ name }) => name),
    entity: entities.length > 0 ? entities : [...new Set(endpoints.map(({ entity }) => entity.name))],
    place: [...columns, ...entities],
    audience: audiences,
    as: Object.keys(callers),
    edition: editions,
    before: editions,
    after: editions,
  };
};

/** Whoever presses a key wants names, and no reason why there are none. */
const namesHere = async (): Promise<Readonly<Record<string, readonly string[]>>> => {
  try {
    return namesOf(await loadConfig(findConfig(undefined)));
  } catch {
    return {};
  }
};

/**
 * Adds `complete`: it prints the script that a shell completes this command with, and what may stand next where the script
 * asks for it. Endpoints, entities, columns, audiences and callers are those of the project that is here.
 */
export const addCompletion = async (program: Command): Promise<void> => {
  const names = await namesHere();
  const completion = tab(program);
  for (const command of completion.commands.values()) {
    for (const [name, argument] of command.arguments) {
      const known = names[name];
      if (known !== undefined)
        argument.handler = (complete) => {
          for (const each of known) complete(each, '');
        };
    }
    for (const [name, option] of command.options) {
      const known = names[name];
      if (known !== undefined)
        option.handler = (complete) => {
          for (const each of known) complete(each, '');
        };
    }
  }
};
