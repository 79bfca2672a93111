import { execFileSync, spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The folder of these tests, and that of the whole project. */
export const HERE: string = fileURLToPath(new URL('..', import.meta.url));
export const ROOT: string = fileURLToPath(new URL('../..', import.meta.url));
const CACHE = join(HERE, '.cache');
const INSTALLED = join(CACHE, 'node_modules');

/** The compilers: those that others may still be at, and the newest. */
export const VERSIONS = ['5.5', '5.9', '6.0', '7.0'] as const;
export type Version = (typeof VERSIONS)[number];
export const NEWEST: Version = '7.0';

/** The file of a compiler's command. */
export const compilerOf = (version: Version): string =>
  join(HERE, 'node_modules', `typescript-${version}`, 'bin', 'tsc');

const PACKAGES = { gribo: 'gribo', http: '@gribo/http' } as const;

const install = (folder: string, name: string): void => {
  const packed = join(CACHE, 'packed');
  mkdirSync(packed, { recursive: true });
  const [{ filename }] = JSON.parse(
    execFileSync('npm', ['pack', '--json', '--silent', '--pack-destination', packed], {
      cwd: join(ROOT, 'packages', folder),
      encoding: 'utf8',
      stdio: ['ignore', 'pipe', 'inherit'],
    }),
  ) as [{ filename: string }];
  const target = join(INSTALLED, name);
  rmSync(target, { recursive: true, force: true });
  mkdirSync(target, { recursive: true });
  execFileSync('tar', ['-xzf', join(packed, filename), '-C', target, '--strip-components=1']);
};

let isPacked = false;

/** Installs the packages as they would be published, once, beside the programs that are compiled. */
export const installPacked = (): void => {
  if (isPacked) return;
  for (const [folder, name] of Object.entries(PACKAGES)) install(folder, name);
  isPacked = true;
};

/** An empty folder for a program. */
export const emptyFolder = (name: string): string => {
  const folder = join(CACHE, name);
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  return folder;
};

/** The declarations of the example that is a server, without what runs it: a program as its users write them. */
export const copyHarbour = (folder: string): readonly string[] => {
  const source = join(ROOT, 'examples/harbour/src');
  const files = [
    'model.ts',
    'names.ts',
    'rows.ts',
    'random.ts',
    'picture.ts',
    'data.ts',
    'functions.ts',
    'shapes.ts',
    'inputs.ts',
    'api.ts',
  ];
  for (const file of files) cpSync(join(source, file), join(folder, file));
  return files;
};

export interface Compiled {
  /** What the compiler says, a line for each mistake; empty where there is none. */
  readonly said: string;
  /** Seconds that it took. */
  readonly total: number;
}

const STRICT = {
  strict: true,
  target: 'es2022',
  lib: ['es2023', 'dom', 'dom.iterable'],
  types: ['node'],
  module: 'nodenext',
  noEmit: true,
};

/** Compiles files of a folder as strictly as users do, by one compiler. */
export const compile = (
  folder: string,
  files: readonly string[],
  version: Version = NEWEST,
  options: Readonly<Record<string, unknown>> = {},
): Compiled => {
  const compilerOptions = { ...STRICT, ...options };
  writeFileSync(join(folder, 'tsconfig.json'), JSON.stringify({ compilerOptions, files }));
  writeFileSync(join(folder, 'package.json'), '{ "type": "module" }');
  const run = [compilerOf(version), '-p', folder, '--pretty', 'false', '--extendedDiagnostics'];
  const { stdout, stderr } = spawnSync(process.execPath, run, { cwd: folder, encoding: 'utf8' });
  const at = /^Files:/m.exec(stdout)?.index ?? stdout.length;
  const [, total] = /Total time:\s+([\d.]+)/.exec(stdout.slice(at)) ?? [];
  return { said: (stdout.slice(0, at) + stderr).trim(), total: Number(total) };
};

/** The names of the files below a folder that end so. */
export const filesBelow = (folder: string, end: string): readonly string[] =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter((file) => file.endsWith(end));
