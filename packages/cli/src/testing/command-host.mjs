// A process that runs commands as they were built last, one after the other, for `run-gribo.ts`.
import { Readable } from 'node:stream';
import { run } from '@gribo/cli';
import picocolors from 'picocolors';

const outcomeOf = async ({ args, cwd, env, input }) => {
  const out = [];
  const err = [];
  process.chdir(cwd);
  process.env = env;
  // What completes shells prints by itself.
  const write = process.stdout.write;
  process.stdout.write = (text) => out.push(String(text)) > 0;
  // To a command this is a pipe.
  const code = await run(['node', 'gribo', ...args], {
    width: 100,
    colours: picocolors.createColors(false),
    input: Readable.from([Buffer.from(input)]),
    print: (text) => void out.push(`${text}\n`),
    complain: (text) => void err.push(`${text}\n`),
  });
  process.stdout.write = write;
  return { code, out: out.join(''), err: err.join('') };
};

process.on('message', async (command) => {
  process.send(await outcomeOf(command));
});
