import type { Command } from 'commander';
import type { Screen } from '../screen/screen.js';

/**
 * Adds a command to the program: its arguments, its options, and what it does. What it does is imported when it is run:
 * who asks for help, or for another command, does not wait for it.
 */
export type AddCommand = (program: Command, screen: Screen) => void;
