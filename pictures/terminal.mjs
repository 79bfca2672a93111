// A terminal in a page: what a command prints to a terminal of its own, drawn by a terminal emulator.
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { delimiter, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

const COLUMNS = 140;
const text = (specifier) => readFileSync(fileURLToPath(import.meta.resolve(specifier)), 'utf8');

/**
 * What a line prints where somebody looks: in colours, as wide as the picture.
 *
 * @param line a line for a shell
 */
export const typed = (line, cwd) => {
  const PATH = `${resolve('node_modules/.bin')}${delimiter}${process.env.PATH}`;
  const env = {
    ...process.env,
    PATH,
    TERM: 'xterm-256color',
    LC_ALL: 'C.UTF-8',
    FORCE_COLOR: '1',
    TZ: 'UTC',
  };
  delete env.CI;
  // Only what a program says is of interest: not how fast it came, nor what npm says of itself.
  env.npm_config_loglevel = 'silent';
  const run = line.replace(/^curl /, 'curl --silent --no-styled-output ');
  const shown = `stty cols ${COLUMNS} rows 400; ${run}; true`;
  const printed = execFileSync('script', ['-qec', shown, '/dev/null'], {
    cwd,
    env,
    encoding: 'utf8',
    maxBuffer: 1 << 24,
  });
  return printed.endsWith('\n') ? printed : `${printed}\n`;
};

/** Draws what was printed, as high as it is. */
export const drawn = async (page, printed, path) => {
  const rows = 400;
  await page.setContent(`<!doctype html><style>${text('@xterm/xterm/css/xterm.css')}
    body { margin: 0; background: #111318; } #terminal { padding: 8px; }</style><div id="terminal"></div>`);
  await page.addScriptTag({ content: text('@xterm/xterm') });
  const last = await page.evaluate(
    ({ said, columns, lines }) =>
      new Promise((drawing) => {
        const terminal = new window.Terminal({
          cols: columns,
          rows: lines,
          convertEol: true,
          fontFamily: 'DejaVu Sans Mono',
          fontSize: 15,
          theme: {
            background: '#111318',
            foreground: '#e6e6e6',
            brightBlack: '#8b8b8b',
            red: '#ee5d5d',
            green: '#3fc75a',
            cyan: '#2cc9c9',
            magenta: '#d061d0',
            yellow: '#d9b33a',
          },
        });
        terminal.open(document.getElementById('terminal'));
        terminal.write(said, () => requestAnimationFrame(() => drawing(terminal.buffer.active.cursorY)));
      }),
    { said: printed, columns: COLUMNS, lines: rows },
  );
  await page.waitForTimeout(300);
  const { height, width } = await page.locator('.xterm-screen').boundingBox();
  const used = Math.ceil((height / rows) * (last + 1)) + 16;
  await page.screenshot({
    path,
    clip: { x: 0, y: 0, width: Math.max(1280, Math.ceil(width) + 16), height: used },
    fullPage: true,
  });
};
