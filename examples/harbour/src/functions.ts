import { NOW } from './data.js';

/*
 * What members call, each exported so that stand-alone serializers can import it: nothing here
 * needs the library.
 */

export const fullName = (firstName: string, lastName: string): string => `${firstName} ${lastName}`;

export const ageOf = (builtYear: number): number => NOW.getUTCFullYear() - builtYear;
