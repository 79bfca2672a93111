import { readFileSync } from 'node:fs';
import { CONTRACT_LAYOUT, type Contract } from 'gribo';
import { Mistake } from '../screen/mistake.js';

const isContract = (value: unknown): value is Contract =>
  typeof value === 'object' && value !== null && (value as { layout?: unknown }).layout === CONTRACT_LAYOUT;

/** The contract in a file. @throws {Mistake} where there is none */
export const readContract = (path: string): Contract => {
  let value: unknown;
  try {
    value = JSON.parse(readFileSync(path, 'utf8'));
  } catch (error) {
    throw new Mistake(`${path} could not be read: ${error instanceof Error ? error.message : String(error)}`);
  }
  if (isContract(value)) return value;
  throw new Mistake(
    `${path} is no contract of this version of Gribo: gribo build writes one, as contract.json.`,
  );
};
