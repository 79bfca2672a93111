import { readFileSync } from 'node:fs';
import { expect } from 'chai';
import { answersOf } from './testing/answers-of.js';

describe('the first edition of the harbour', () => {
  it('answers what it answered before there were others: every endpoint, caller and row, to the byte', async () => {
    const recorded = readFileSync(new URL('../recorded/2025-11.txt', import.meta.url), 'utf8')
      .trimEnd()
      .split('\n');
    // Where nobody names an edition, and where it is named.
    for (const prefix of ['', '/2025-11']) {
      const answered = await answersOf(prefix);
      const changed = recorded.flatMap((line, i) =>
        line === answered[i] ? [] : [`${line} → ${answered[i]}`],
      );
      expect(changed, prefix).to.deep.equal([]);
      expect(answered.length).to.equal(2040);
    }
  });

  it('differs from the newest, which others rely on', async () => {
    const [first, newest] = await Promise.all(['/2025-11', '/2026-05'].map(answersOf));
    expect(newest).to.have.length(2040);
    expect(newest?.filter((line, i) => line !== first?.[i]).length).to.be.above(300);
  });
});
