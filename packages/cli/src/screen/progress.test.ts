import { expect } from 'chai';
import { withProgress } from './progress.js';

/** What clears the line. */
const GONE = '\r\u001b[K';

/** What is written to a terminal, or to a file, while some work is done. */
const writtenWhile = async (isTTY: boolean, work: () => Promise<unknown>): Promise<string> => {
  const { stderr } = process;
  const [was, write] = [stderr.isTTY, stderr.write];
  let written = '';
  stderr.isTTY = isTTY;
  stderr.write = ((text: string) => {
    written += text;
    return true;
  }) as typeof stderr.write;
  try {
    await withProgress('Reading', work).catch(() => undefined);
  } finally {
    stderr.isTTY = was;
    stderr.write = write;
  }
  return written;
};

const after = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds));

describe('progress', () => {
  it('is said on a terminal while something takes long, and is gone at the end', async () => {
    const written = await writtenWhile(true, () => after(400));
    expect(written).to.equal(`${GONE}Reading …${GONE}`);
    expect(await writtenWhile(true, () => after(3300)))
      .to.include('Reading … 2 s')
      .and.satisfy((text: string) => text.endsWith(GONE));
  });

  it('is not said of what is soon done, and never into files', async () => {
    expect(await writtenWhile(true, () => after(1))).to.equal(GONE);
    expect(await writtenWhile(false, () => after(400))).to.equal('');
  });

  it('ends where the work fails', async () => {
    const failing = async (): Promise<void> => {
      await after(350);
      throw new Error('no');
    };
    expect((await writtenWhile(true, failing)).endsWith(GONE)).to.equal(true);
  });
});
