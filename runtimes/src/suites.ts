import { execFile } from 'node:child_process';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const WORKSPACE = fileURLToPath(new URL('../..', import.meta.url));
const MOCHA = join(WORKSPACE, 'node_modules', 'mocha', 'bin', 'mocha.js');

/**
 * Laws try thousands of random things: the Node that runs this has done so by `npm test`, and what they are about is held to be the
 * same by its bytes. `GRIBO_LAWS=all` tries them on the others too.
 */
const LAWS = process.env['GRIBO_LAWS'] === 'all' ? [] : ['--grep', '\\blaws?\\b', '--invert'];

/** How a suite ended. */
export interface SuiteResult {
  readonly passes: number;
  readonly failures: readonly string[];
}

interface Report {
  readonly stats: { readonly passes: number };
  readonly failures: readonly { readonly fullTitle: string; readonly err: { readonly message?: string } }[];
}

/**
 * Runs the suites of packages on another Node.
 *
 * @param file its program
 * @param packages the packages' folders
 */
export const runSuites = (file: string, packages: readonly string[]): Promise<SuiteResult> =>
  new Promise((resolve, reject) => {
    const specs = packages.map((name) => `packages/${name}/src/**/*.test.ts`);
    const args = [MOCHA, '--reporter', 'json', '--no-config', '--timeout', '900000'];
    const nodeOptions = ['-n', 'import=tsx/esm', '-n', 'conditions=@gribo/source'];
    const options = { cwd: WORKSPACE, maxBuffer: 1 << 28 };
    execFile(file, [...args, ...LAWS, ...nodeOptions, ...specs], options, (_error, out, errors) => {
      const start = out.indexOf('{\n  "stats"');
      if (start === -1) return reject(new Error(`the suites did not run: ${errors}`));
      const { stats, failures } = JSON.parse(out.slice(start)) as Report;
      resolve({
        passes: stats.passes,
        failures: failures.map(({ fullTitle, err }) => `${fullTitle}: ${err.message}`),
      });
    });
  });
