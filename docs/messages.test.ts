import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';

const ROOT = fileURLToPath(new URL('..', import.meta.url));

/** The sources of all packages as one text: what messages are made of. */
const sources = readdirSync(join(ROOT, 'packages'), { recursive: true, encoding: 'utf8' })
  .filter((path) => /^\w+\/src\/.*\.ts$/.test(path) && !/\.test\.ts$|\/testing\//.test(path))
  .map((path) => readFileSync(join(ROOT, 'packages', path), 'utf8'))
  .join('\n')
  .replaceAll('\\`', '`')
  // What is told in two lines of source is one text.
  .replaceAll(/['`]\s*\+\s*['`]/g, '');

describe('the page of messages', () => {
  const page = readFileSync(join(ROOT, 'docs/messages.md'), 'utf8');
  for (const [, message = ''] of page.matchAll(/^### (.+)$/gm)) {
    it(message, () => {
      const parts = message
        .split('…')
        .map((part) => part.trim())
        .filter((part) => part.length > 7);
      expect(parts).to.have.length.above(0);
      for (const part of parts) expect(sources.includes(part), part).to.equal(true);
    });
  }
});
