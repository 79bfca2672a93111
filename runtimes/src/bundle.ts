import { execFileSync } from 'node:child_process';
import { readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

const HOME = fileURLToPath(new URL('..', import.meta.url));
const CACHE = join(HOME, '.cache');
const HARBOUR = join(HOME, '..', 'examples', 'harbour');
const BIN = join(HOME, '..', 'packages', 'cli', 'bin', 'gribo.js');

/** Where the programs are that a runtime starts. */
export interface Programs {
  /** Prints the outcomes. */
  readonly console: string;
  /** The folder of a worker that answers with them. */
  readonly worker: string;
}

const SERVED = `using Workerd = import "/workerd/workerd.capnp";
const config :Workerd.Config = (
  services = [(name = "worker", worker = .worker)],
  sockets = [(name = "http", address = "127.0.0.1:0", http = (), service = "worker")],
);
const worker :Workerd.Worker = (
  modules = [(name = "worker", esModule = embed "worker.js")],
  compatibilityDate = "2026-11-01",
);
`;

/** The harbour's serializers, imported one by one. */
const importing = (names: readonly string[]): string => {
  const imports = names.map(
    (name, i) => `import * as s${i} from ${JSON.stringify(`./serializers/${name}.js`)};`,
  );
  const pairs = names.map((name, i) => `${JSON.stringify(name)}: s${i}`);
  return `import { smoke } from '../src/smoke.ts';\n${imports.join('\n')}\nconst all = { ${pairs.join(', ')} };\n`;
};

const bundle = async (contents: string, name: string): Promise<void> => {
  await build({
    stdin: { contents, resolveDir: CACHE, loader: 'ts' },
    outfile: join(CACHE, name),
    bundle: true,
    format: 'esm',
    target: 'es2022',
    external: ['node:*'],
    alias: { stream: 'node:stream' },
    logLevel: 'error',
  });
};

/** Puts what every runtime runs into files of their own, from the built packages, as their users would. */
export const bundlePrograms = async (): Promise<Programs> => {
  rmSync(CACHE, { recursive: true, force: true });
  const args = ['build', '--only', 'types,serializers', '--out', CACHE];
  execFileSync(process.execPath, [BIN, ...args], { cwd: HARBOUR, stdio: 'pipe' });
  const names = readdirSync(join(CACHE, 'serializers'))
    .filter((file) => file.endsWith('.js'))
    .map((file) => file.slice(0, -3));
  const imports = importing(names);
  await bundle(`${imports}console.log(JSON.stringify(await smoke(all)));`, 'console.js');
  const answer = 'new Response(JSON.stringify(await smoke(all)))';
  await bundle(`${imports}export default { fetch: async () => ${answer} };`, 'worker.js');
  writeFileSync(join(CACHE, 'worker.capnp'), SERVED);
  writeFileSync(join(CACHE, 'package.json'), '{"type":"module"}');
  return { console: join(CACHE, 'console.js'), worker: CACHE };
};
