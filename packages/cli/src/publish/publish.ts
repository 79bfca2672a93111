import { relative } from 'node:path';
import { contractOf } from 'gribo';
import { inAskedEdition } from '../asked/asked-edition.js';
import { jsonText } from '../build/output.js';
import type { GriboConfig } from '../config/config.js';
import { differenceLines } from '../diff/difference-lines.js';
import { writeWhole } from '../running/write-whole.js';
import { counted } from '../screen/counted.js';
import { Mistake } from '../screen/mistake.js';
import type { Screen } from '../screen/screen.js';
import { changesSince, publishedContract, publishedFile } from './published.js';

export interface PublishOptions {
  readonly again?: boolean;
}

/**
 * Keeps the contract of an edition as a file.
 *
 * @throws {Mistake} with exit code 1 where it was published with another one, and that is to stay
 */
export const publish = async (
  config: GriboConfig,
  configPath: string,
  edition: string,
  options: PublishOptions,
  screen: Screen,
): Promise<void> => {
  const contract = contractOf(inAskedEdition(config, { edition }).api);
  const file = publishedFile(config, configPath, edition);
  const shown = relative(process.cwd(), file);
  const before = publishedContract(file);
  const changes = before === null ? [] : changesSince(before, contract);
  if (before !== null && changes.length === 0) {
    screen.print(`${shown}: ${edition} is as it was published.`);
    return;
  }
  for (const line of differenceLines(changes, contract.audiences, screen)) screen.print(line);
  if (before !== null && options.again !== true)
    throw new Mistake(
      `${edition} was published as it is in ${shown}: give it back what it had, or keep what it is now with --again.`,
      1,
    );
  await writeWhole([{ path: file, text: jsonText(contract) }]);
  const { endpoints, shapes, inputs } = contract;
  const size = [
    counted(endpoints.length, 'endpoint'),
    counted(Object.keys(shapes).length, 'shape'),
    counted(Object.keys(inputs).length, 'input'),
  ].join(', ');
  screen.print(`${screen.colours.green('+')} ${shown}: ${edition} with ${size}`);
  screen.print(screen.colours.dim('gribo check fails from now on where it changes.'));
};
