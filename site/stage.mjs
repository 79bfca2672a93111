// Pages that are made, not written: every public name from its docstring, and the examples that pages link to.
import { execFileSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const ROOT = fileURLToPath(new URL('..', import.meta.url));
const REFERENCE = `${ROOT}docs/reference`;

rmSync(REFERENCE, { recursive: true, force: true });
execFileSync('npx', ['typedoc', '--logLevel', 'Warn'], { cwd: `${ROOT}site`, stdio: 'inherit' });

mkdirSync(`${REFERENCE}/examples`);
for (const file of readdirSync(`${ROOT}docs/examples`)) {
  const code = readFileSync(`${ROOT}docs/examples/${file}`, 'utf8');
  const name = file.replace(/\.ts$/, '');
  writeFileSync(
    `${REFERENCE}/examples/${name}.md`,
    `# ${file}\n\nWhat several pages use.\n\n\`\`\`ts\n${code}\`\`\`\n`,
  );
}
for (const name of ['harbour', 'quayside', 'workbench']) {
  writeFileSync(
    `${REFERENCE}/examples/${name}.md`,
    readFileSync(`${ROOT}examples/${name}/README.md`, 'utf8'),
  );
}
