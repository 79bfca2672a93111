/** Ends a walk that has found as much as is told. */
export class Enough extends Error {}
