import { InvalidArgumentError } from 'commander';

/** A whole number of 1 or more, as an option takes it. */
export const wholeNumber = (text: string): number => {
  if (/^[1-9]\d{0,6}$/.test(text)) return Number(text);
  throw new InvalidArgumentError('Expected a whole number of 1 or more.');
};

/** A port, as an option takes it; 0: any that is free. */
export const portNumber = (text: string): number => {
  if (/^\d{1,5}$/.test(text) && Number(text) < 65_536) return Number(text);
  throw new InvalidArgumentError('Expected a port from 0 to 65535.');
};

/** Names with commas between them. */
export const names = (text: string): string[] => text.split(',').map((name) => name.trim());
