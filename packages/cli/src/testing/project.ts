import { mkdir, mkdtemp, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { WORKSPACE } from './run-gribo.js';

/** A project of its own, beside the packages, with this configuration. */
export const project = async (config: string): Promise<string> => {
  await mkdir(join(WORKSPACE, '.cache'), { recursive: true });
  const folder = await mkdtemp(join(WORKSPACE, '.cache', 'project-'));
  await writeFile(join(folder, 'package.json'), '{ "type": "module" }');
  await writeFile(join(folder, 'gribo.config.ts'), config);
  return folder;
};
