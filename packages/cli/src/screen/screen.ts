import picocolors from 'picocolors';
import stringWidth from 'string-width';

/** Where a command reads and prints: how wide, and whether in colours. */
export interface Screen {
  readonly width: number;
  readonly colours: ReturnType<typeof picocolors.createColors>;
  /** What is typed, or sent to the command. */
  readonly input: AsyncIterable<Uint8Array>;
  print(text: string): void;
  /** What went wrong, apart from what is printed. */
  complain(text: string): void;
}

const NARROWEST = 60;

/** The terminal, or the file or pipe that stands in for one: 100 wide and without colours. */
export const terminal = (): Screen => {
  const { isTTY, columns } = process.stdout;
  return {
    width: isTTY ? Math.max(columns ?? 80, NARROWEST) : 100,
    colours: picocolors.createColors(isTTY === true && picocolors.isColorSupported),
    input: process.stdin,
    print: (text) => {
      process.stdout.write(`${text}\n`);
    },
    complain: (text) => {
      process.stderr.write(`${text}\n`);
    },
  };
};

const segments = new Intl.Segmenter(undefined, { granularity: 'grapheme' });

/** Cuts a text to so many cells, the last one `…` where something was cut. */
export const cutTo = (text: string, cells: number): string => {
  if (stringWidth(text) <= cells) return text;
  let kept = '';
  let used = 0;
  for (const { segment } of segments.segment(text)) {
    const width = stringWidth(segment);
    if (used + width > cells - 1) break;
    kept += segment;
    used += width;
  }
  return `${kept}…`;
};

/** Fills a text with spaces up to so many cells, and cuts it where it is longer. */
export const fit = (text: string, cells: number): string => {
  const cut = cutTo(text, cells);
  return cut + ' '.repeat(Math.max(0, cells - stringWidth(cut)));
};
