import { AssertionError } from 'node:assert';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import {
  type AnyApi,
  CONTRACT_LAYOUT,
  type Contract,
  compare,
  contractOf,
  type Difference,
  type Effect,
  GriboError,
} from 'gribo';

export interface ContractChanges {
  /** What may differ: nothing, what is safe for clients, or what is risky too. Default: `nothing`. */
  readonly allow?: 'nothing' | 'safe' | 'risky';
}

const ALLOWED: Readonly<Record<NonNullable<ContractChanges['allow']>, readonly Effect[]>> = {
  nothing: [],
  safe: ['safe'],
  risky: ['safe', 'risky'],
};

const textOf = (contract: Contract): string => `${JSON.stringify(contract, null, 2)}\n`;

const read = (file: string): Contract => {
  let kept: unknown;
  try {
    kept = JSON.parse(readFileSync(file, 'utf8'));
  } catch (cause) {
    const todo = 'keep one with GRIBO_CONTRACT=write, or with gribo build';
    throw new GriboError('MISUSE', file, `there is no contract to compare with: ${todo}`, { cause });
  }
  if ((kept as Partial<Contract> | null)?.layout === CONTRACT_LAYOUT) return kept as Contract;
  throw new GriboError(
    'MISUSE',
    file,
    'it is no contract of this version of Gribo: write it anew with GRIBO_CONTRACT=write',
  );
};

const line = ({ effect, path, message, reach }: Difference): string => {
  const where = reach.map(({ endpoint }) => endpoint);
  const more = where.length > 3 ? ` and ${where.length - 3} more` : '';
  const place = path === '' ? '' : `${path}: `;
  return `${effect === 'safe' ? '+' : '!'} ${effect.padEnd(8)}  ${place}${message}  (${where.slice(0, 3).join(', ')}${more})`;
};

/**
 * Fails where an API is not what a kept contract says: what clients rely on does not change unnoticed. With
 * `GRIBO_CONTRACT=write` in the environment the contract is kept as it is now, to be looked at and committed.
 *
 * @param api the API
 * @param file the kept contract: `generated/contract.json`
 * @param options `allow`: which differences are all right
 * @throws {AssertionError} that lists the differences, the breaking ones first
 * @throws {GriboError} `MISUSE` where the file is no contract
 * @example
 * assertContract(harbour, 'generated/contract.json', { allow: 'safe' });
 */
export const assertContract = (
  api: AnyApi,
  file: string,
  { allow = 'nothing' }: ContractChanges = {},
): void => {
  const now = contractOf(api);
  if (process.env['GRIBO_CONTRACT'] === 'write') {
    mkdirSync(dirname(file), { recursive: true });
    return writeFileSync(file, textOf(now));
  }
  const { differences, suggested } = compare(read(file), now);
  const found = differences.filter(({ effect }) => !ALLOWED[allow].includes(effect));
  if (found.length === 0) return;
  const said = [
    `${now.title} is not what ${file} says.`,
    ...found.map(line),
    `Mend it, or keep it as it is now with GRIBO_CONTRACT=write${suggested === null ? '' : ` and call it ${suggested}`}.`,
  ];
  throw new AssertionError({ message: said.join('\n'), stackStartFn: assertContract, operator: 'fail' });
};
