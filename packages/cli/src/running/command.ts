import type { Command } from 'commander';
import type { Screen } from '../screen/screen.js';

/** Adds a command to the program: its arguments, its options, and what it does. */
export type AddCommand = (program: Command, screen: Screen) => void;
