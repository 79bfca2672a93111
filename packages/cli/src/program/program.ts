import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Command, CommanderError } from 'commander';
import { describeFailure } from '../screen/mistake.js';
import { notForever } from '../screen/not-forever.js';
import { type Screen, terminal } from '../screen/screen.js';
import { COMMANDS } from './commands.js';

const version = (): string => {
  const file = fileURLToPath(import.meta.resolve('@gribo/cli/package.json'));
  return (JSON.parse(readFileSync(file, 'utf8')) as { readonly version: string }).version;
};

/** The command's arguments, with what each does. */
export const makeProgram = (screen: Screen): Command => {
  const program = new Command('gribo')
    .description('See what an API sends, and why.')
    .version(version(), '--version', 'the version of this command')
    .option('--config <file>', 'the configuration; default: the nearest gribo.config.ts')
    .exitOverride()
    .configureOutput({
      writeOut: (text) => screen.print(text.trimEnd()),
      outputError: (text) => screen.complain(text.replace(/^error: /, '').trimEnd()),
    });
  for (const add of COMMANDS) add(program, screen);
  return program.addHelpText(
    'after',
    '\ngribo complete <shell>  prints a script that completes all of this: bash, zsh, fish',
  );
};

/** Completion reads the whole program and the project: nobody else waits for that. */
const withCompletion = async (program: Command, argv: readonly string[]): Promise<Command> => {
  if (argv[2] !== 'complete') return program;
  const { addCompletion } = await import('../complete/add-completion.js');
  await addCompletion(program);
  return program;
};

/** Where no command is named, it is the one that says which there are. */
const withCommand = (argv: readonly string[]): string[] => {
  const [program = '', script = '', ...said] = argv;
  const isBare = said.length === 0 || (said.length === 2 && said[0] === '--config');
  return isBare ? [program, script, 'here', ...said] : [...argv];
};

const STUCK =
  'It waited for something that never comes: look at what the configuration opens as `store`, and at its handlers.';

/**
 * Runs the command line.
 *
 * @param argv the process's arguments, program and script included
 * @param screen where it prints. Default: the terminal
 * @returns the exit code: 0 done, 1 something was found, 2 called wrongly
 */
export const run = async (argv: readonly string[], screen: Screen = terminal()): Promise<number> => {
  try {
    const program = await withCompletion(makeProgram(screen), argv);
    await notForever(program.parseAsync(withCommand(argv)), STUCK);
    return 0;
  } catch (error) {
    // Commander has said it already; asking for help is no mistake.
    if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
    const { message, exitCode } = describeFailure(error);
    screen.complain(message);
    return exitCode;
  }
};
