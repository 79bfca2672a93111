import { execFileSync, spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { delimiter, join } from 'node:path';
import { expect } from 'chai';
import { BIN, gribo, HARBOUR } from '../testing/run-gribo.js';

/** What may stand next, by what stands already. */
const next = async (...words: string[]): Promise<readonly string[]> => {
  const { out } = await gribo(['complete', '--', ...words]);
  return out
    .split('\n')
    .filter((line) => line !== '' && !line.startsWith(':'))
    .map((line) => line.split('\t')[0] ?? '');
};

describe('gribo complete', () => {
  it('knows commands, options, and the names of this project', async () => {
    expect(await next('')).to.include.members(['show', 'serve', 'init', 'diff']);
    expect(await next('show', 'vessels.')).to.include.members(['vessels.read', 'vessels.list']);
    expect(await next('table', 'be')).to.deep.equal(['berth']);
    expect(await next('trace', 'vessel.m')).to.deep.equal(['vessel.masterPhone']);
    expect(await next('show', 'vessels.read', '--audience', '')).to.deep.equal([
      'public',
      'agent',
      'harbourMaster',
    ]);
    const editions = ['2025-11', '2026-02', '2026-05'];
    expect(await next('publish', '')).to.deep.equal(editions);
    expect(await next('retire', '2025')).to.deep.equal(['2025-11']);
    expect(await next('show', 'vessels.read', '--edition', '')).to.deep.equal(editions);
    expect(await next('diff', '')).to.deep.equal(editions);
    expect(await next('init', '--from', '')).to.deep.equal(['drizzle', 'database', 'nothing']);
    expect((await gribo(['complete', '--', 'show', ''], tmpdir())).code).to.equal(0);
  });

  it('is understood by a shell', () => {
    const folder = mkdtempSync(join(tmpdir(), 'gribo-complete-'));
    writeFileSync(join(folder, 'gribo'), `#!/bin/sh\nexec ${process.execPath} ${BIN} "$@"\n`);
    chmodSync(join(folder, 'gribo'), 0o755);
    const env = { ...process.env, PATH: `${folder}${delimiter}${process.env['PATH']}` };
    const script = execFileSync(process.execPath, [BIN, 'complete', 'bash'], { encoding: 'utf8' });
    writeFileSync(join(folder, 'script'), script);
    // What the package bash-completion defines, and what only an interactive shell has.
    const shell = `_get_comp_words_by_ref() { cur=\${COMP_WORDS[COMP_CWORD]}; words=("\${COMP_WORDS[@]}"); cword=$COMP_CWORD; }
compopt() { :; }`;
    const asked = `${shell}
source ${folder}/script
COMP_WORDS=(gribo show vessels.re); COMP_CWORD=2; COMP_LINE='gribo show vessels.re'; COMP_POINT=\${#COMP_LINE}
$(complete -p gribo | sed -E 's/.*-F ([^ ]+).*/\\1/') gribo vessels.re show
echo "\${COMPREPLY[@]}"`;
    const { stdout, stderr } = spawnSync('bash', ['-c', asked], { cwd: HARBOUR, env, encoding: 'utf8' });
    expect(stdout, stderr).to.match(/^vessels\.read vessels\.replace/);
    for (const shell of ['zsh', 'fish']) {
      const printed = execFileSync(process.execPath, [BIN, 'complete', shell], { encoding: 'utf8' });
      expect(printed).to.include('gribo complete --');
    }
  });

  it('stands in the help', async () => {
    expect((await gribo(['--help'])).out).to.include('gribo complete <shell>');
    expect((await gribo(['--version'])).out).to.match(/^\d+\.\d+\.\d+\n$/);
  });
});
