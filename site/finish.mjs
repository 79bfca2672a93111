// The workbench goes beside the pages: they link to it.
import { cpSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const at = (path) => fileURLToPath(new URL(path, import.meta.url));

cpSync(at('../examples/workbench/dist'), at('dist/workbench'), { recursive: true });
