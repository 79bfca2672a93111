import { type Figure, median } from './figure.js';

const ROUNDS = 31;

/** Milliseconds that one call takes, over so many calls. */
const timeOf = (work: () => unknown, calls: number): number => {
  const start = process.hrtime.bigint();
  for (let i = 0; i < calls; i++) work();
  return Number(process.hrtime.bigint() - start) / calls / 1e6;
};

export interface Comparison {
  readonly what: string;
  /** What ours is compared with. Left out: what is written by hand. */
  readonly than?: string;
  readonly byHand: () => unknown;
  readonly byGribo: () => unknown;
  /** Calls in one round: enough for a round to take a few milliseconds. */
  readonly calls: number;
  /** The ratio to reach; left out: there is none. */
  readonly atLeast?: number;
}

const asText = (value: unknown): string => {
  if (value instanceof Uint8Array) return Buffer.from(value).toString();
  return typeof value === 'string' ? value : JSON.stringify(value);
};

/** Times both sides in turns, in one run. */
export const compare = ({ what, than, byHand, byGribo, calls, atLeast }: Comparison): Figure => {
  if (asText(byHand()) !== asText(byGribo())) throw new Error(`${what}: the two outputs differ`);
  for (let i = 0; i < 5; i++) {
    timeOf(byHand, calls);
    timeOf(byGribo, calls);
  }
  const rounds = Array.from(
    { length: ROUNDS },
    () => [timeOf(byHand, calls), timeOf(byGribo, calls)] as const,
  );
  return {
    what,
    than: than ?? 'hand-written',
    theirs: median(rounds.map(([time]) => time)),
    ours: median(rounds.map(([, time]) => time)),
    unit: 'ms',
    ratio: median(rounds.map(([hand, gribo]) => hand / gribo)),
    bar: atLeast ?? null,
    beside: '',
  };
};
