import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { HERE } from './workshop.js';

/** Compares a text with the one that is kept; `GRIBO_GOLDEN=write` keeps it instead. */
export const expectGolden = (name: string, text: string): void => {
  const path = join(HERE, 'golden', name);
  const kept = `${text.trimEnd()}\n`;
  if (process.env['GRIBO_GOLDEN'] === 'write') {
    mkdirSync(join(HERE, 'golden'), { recursive: true });
    writeFileSync(path, kept);
  }
  expect(kept, `${name} is another: look at it, and keep it with GRIBO_GOLDEN=write`).to.equal(
    readFileSync(path, 'utf8'),
  );
};
