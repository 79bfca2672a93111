const ROUNDS = 31;

/** Milliseconds that one call takes, over so many calls. */
const timeOf = (work: () => unknown, calls: number): number => {
  const start = process.hrtime.bigint();
  for (let i = 0; i < calls; i++) work();
  return Number(process.hrtime.bigint() - start) / calls / 1e6;
};

const median = (numbers: readonly number[]): number =>
  [...numbers].sort((a, b) => a - b)[Math.floor(numbers.length / 2)] ?? Number.NaN;

export interface Comparison {
  readonly name: string;
  readonly byHand: () => unknown;
  readonly byGribo: () => unknown;
  /** Calls in one round: enough for a round to take a few milliseconds. */
  readonly calls: number;
  /** The ratio to reach; 0 where there is none. */
  readonly atLeast: number;
}

const asText = (value: unknown): string => {
  if (value instanceof Uint8Array) return Buffer.from(value).toString();
  return typeof value === 'string' ? value : JSON.stringify(value);
};

/** Times both sides in turns, in one run, and returns whether the ratio was reached. */
export const compare = ({ name, byHand, byGribo, calls, atLeast }: Comparison): boolean => {
  if (asText(byHand()) !== asText(byGribo())) throw new Error(`${name}: the two outputs differ`);
  for (let i = 0; i < 5; i++) {
    timeOf(byHand, calls);
    timeOf(byGribo, calls);
  }
  const rounds = Array.from(
    { length: ROUNDS },
    () => [timeOf(byHand, calls), timeOf(byGribo, calls)] as const,
  );
  const ratio = median(rounds.map(([hand, gribo]) => hand / gribo));
  const hand = median(rounds.map(([time]) => time));
  const gribo = median(rounds.map(([, time]) => time));
  const goal = atLeast === 0 ? '' : ` (bar: ${atLeast}×)`;
  console.log(`${name.padEnd(44)} by hand ${show(hand)}  gribo ${show(gribo)}  ${ratio.toFixed(2)}×${goal}`);
  return ratio >= atLeast;
};

const show = (milliseconds: number): string =>
  milliseconds < 0.1
    ? `${(milliseconds * 1000).toFixed(2).padStart(7)} µs`
    : `${milliseconds.toFixed(3).padStart(7)} ms`;
