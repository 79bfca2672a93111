import { NOW } from './data.js';

/*
 * What members call, each exported so that stand-alone serializers can import it: nothing here
 * needs the library.
 */

export const fullName = (firstName: string, lastName: string): string => `${firstName} ${lastName}`;

export const ageOf = (builtYear: number): number => NOW.getUTCFullYear() - builtYear;

/** Whether an embargo is over, or there is none. */
export const isOver = (until: Date | null): boolean => until === null || until <= NOW;

export const isTrue = (flag: boolean): boolean => flag;
