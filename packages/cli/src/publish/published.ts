import { existsSync } from 'node:fs';
import { readdir } from 'node:fs/promises';
import { dirname, join, resolve } from 'node:path';
import { type Contract, compare, contractOf, type Difference, type ReviewFinding } from 'gribo';
import type { FindingRule } from 'gribo/kit';
import { editionNames, inAskedEdition } from '../asked/asked-edition.js';
import type { GriboConfig } from '../config/config.js';
import { readContract } from '../diff/read-contract.js';

/** The folder of published contracts. */
export const publishedFolder = (config: GriboConfig, configPath: string): string =>
  resolve(dirname(configPath), config.published ?? 'contracts');

/** The file of an edition's contract. */
export const publishedFile = (config: GriboConfig, configPath: string, edition: string): string =>
  join(publishedFolder(config, configPath), `${edition}.json`);

/** The contract that an edition was published with; null where it was not. @throws {Mistake} where the file is none */
export const publishedContract = (file: string): Contract | null =>
  existsSync(file) ? readContract(file) : null;

/** What differs from a published contract: what its own version is called says nothing of that. */
export const changesSince = (published: Contract, now: Contract): readonly Difference[] =>
  compare(published, now).differences;

/** A published edition is not as it was. */
export const PUBLISHED: Omit<FindingRule, 'find'> = {
  code: 'published-changed',
  severity: 'error',
  rule: 'An edition is not as it was published.',
  advice:
    'Give it back what it had, with editionFrom(…) and editionBefore(…); or, where nobody relies on that, gribo publish <edition> --again.',
};

const finding = (place: string, message: string): ReviewFinding => {
  const { code, severity, advice } = PUBLISHED;
  return { code, severity, advice, place, message };
};

const namesIn = async (folder: string): Promise<readonly string[]> =>
  existsSync(folder)
    ? (await readdir(folder)).filter((file) => file.endsWith('.json')).map((file) => file.slice(0, -5))
    : [];

/** Where editions are not as they were published. */
export const publishedFindings = async (
  config: GriboConfig,
  configPath: string,
): Promise<readonly ReviewFinding[]> => {
  const declared = editionNames(config);
  const names = await namesIn(publishedFolder(config, configPath));
  return names.flatMap((name): readonly ReviewFinding[] => {
    if (!declared.includes(name))
      return [finding(`edition ${name}`, 'It was published, and is not declared any more.')];
    const published = readContract(publishedFile(config, configPath, name));
    const now = contractOf(inAskedEdition(config, { edition: name }).api);
    return changesSince(published, now).map(({ path, message, reach }) => {
      const [first] = reach;
      const at = first === undefined ? '' : `/${first.endpoint}`;
      return finding(`edition ${name}${at}${path === '' ? '' : `/${path}`}`, message);
    });
  });
};
